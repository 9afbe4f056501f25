/** The part of pdfmake's server interface that is used here; the package ships no types. */
declare module 'pdfmake' {
  type Fonts = Record<string, { normal: string; bold: string; italics: string; bolditalics: string }>;
  const pdfmake: {
    setFonts(fonts: Fonts): void;
    setUrlAccessPolicy(allows: (url: string) => boolean): void;
    setLocalAccessPolicy(allows: (path: string) => boolean): void;
    createPdf(definition: object): { getBuffer(): Promise<Buffer> };
  };
  export default pdfmake;
}
