import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type Pdfmake from 'pdfmake';

const require = createRequire(import.meta.url);
const folderOf = (name: string): string => dirname(require.resolve(`${name}/package.json`));
const words = folderOf('@expo-google-fonts/atkinson-hyperlegible-next');
const figures = folderOf('@expo-google-fonts/jetbrains-mono');
const wordsFont = (weight: string): string => join(words, weight, `AtkinsonHyperlegibleNext_${weight}.ttf`);
const figuresFont = (weight: string): string => join(figures, weight, `JetBrainsMono_${weight}.ttf`);

const FONTS = {
  Atkinson: {
    normal: wordsFont('400Regular'),
    bold: wordsFont('700Bold'),
    italics: wordsFont('400Regular_Italic'),
    bolditalics: wordsFont('700Bold_Italic'),
  },
  Mono: {
    normal: figuresFont('400Regular'),
    bold: figuresFont('700Bold'),
    italics: figuresFont('400Regular_Italic'),
    bolditalics: figuresFont('700Bold_Italic'),
  },
};

/** Printing is a third of what a thread takes at rest: it is brought in with the first page. */
let printer: Promise<typeof Pdfmake> | null = null;

const brought = (): Promise<typeof Pdfmake> =>
  (printer ??= import('pdfmake').then(({ default: pdfmake }) => {
    pdfmake.setFonts(FONTS);
    pdfmake.setUrlAccessPolicy(() => false);
    pdfmake.setLocalAccessPolicy((path) => path.startsWith(words) || path.startsWith(figures));
    return pdfmake;
  }));

/** A file that lies inside a printed document. */
export interface Attached {
  name: string;
  text: string;
}

/** Prints a document: fonts are ours, nothing is fetched. */
export async function printPdf(definition: object): Promise<Buffer> {
  return (await brought()).createPdf(definition).getBuffer();
}

/** A piece that is passed on is at least so large, but for the last. */
const PIECE_BYTES = 64 * 1024;

/** The same, piece by piece as its pages are written out, with a file inside it. */
export async function* printedPieces(definition: object, attached: Attached): AsyncGenerator<Buffer> {
  const document = await (await brought()).createPdf(definition).getStream();
  document.file(Buffer.from(attached.text), {
    name: attached.name,
    type: 'application/json',
    relationship: 'Source',
  });
  document.end();
  let [held, bytes] = [[] as Buffer[], 0];
  for await (const piece of document) {
    held.push(piece as Buffer);
    bytes += (piece as Buffer).length;
    if (bytes < PIECE_BYTES) continue;
    yield Buffer.concat(held);
    [held, bytes] = [[], 0];
  }
  if (bytes > 0) yield Buffer.concat(held);
}
