import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import pdfmake from 'pdfmake';

const require = createRequire(import.meta.url);
const fontFolder = dirname(require.resolve('@expo-google-fonts/atkinson-hyperlegible-next/package.json'));
const font = (weight: string): string => join(fontFolder, weight, `AtkinsonHyperlegibleNext_${weight}.ttf`);

pdfmake.setFonts({
  Atkinson: {
    normal: font('400Regular'),
    bold: font('700Bold'),
    italics: font('400Regular_Italic'),
    bolditalics: font('700Bold_Italic'),
  },
});
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path) => path.startsWith(fontFolder));

/** Prints a document: fonts are ours, nothing is fetched. */
export const printPdf = (definition: object): Promise<Buffer> => pdfmake.createPdf(definition).getBuffer();
