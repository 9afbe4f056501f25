/** The part of pdfmake's server interface that is used here; the package ships no types. */
declare module 'pdfmake' {
  import type { Readable } from 'node:stream';

  type Fonts = Record<string, { normal: string; bold: string; italics: string; bolditalics: string }>;
  /** The document before it is ended: files may still be attached. */
  interface Unfinished extends Readable {
    file(content: Buffer, options: { name: string; type: string; relationship: string }): unknown;
    end(): void;
  }
  const pdfmake: {
    setFonts(fonts: Fonts): void;
    setUrlAccessPolicy(allows: (url: string) => boolean): void;
    setLocalAccessPolicy(allows: (path: string) => boolean): void;
    createPdf(definition: object): { getBuffer(): Promise<Buffer>; getStream(): Promise<Unfinished> };
  };
  export default pdfmake;
}
