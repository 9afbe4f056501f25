/**
 * The data attached to a report's PDF, still deflated (RFC 1950); null where the file has none. It reads the one way
 * in which reports are written: an embedded file whose dictionary gives the length of its stream (ISO 32000-1, 7.11.4).
 */
export function attachedIn(pdf: Uint8Array): Uint8Array | null {
  for (let at = find(pdf, '/EmbeddedFile', 0); at >= 0; at = find(pdf, '/EmbeddedFile', at + 1)) {
    const stream = find(pdf, 'stream', at);
    if (stream < 0) return null;
    const dictionary = text(pdf.subarray(at, stream));
    const length = Number(/\/Length (\d+)/.exec(dictionary)?.[1]);
    if (!Number.isInteger(length) || !dictionary.includes('/FlateDecode')) continue;
    // A line's end stands between the word and what follows it.
    const begins = stream + 'stream'.length + (pdf[stream + 'stream'.length] === 0x0d ? 2 : 1);
    if (begins + length <= pdf.length) return pdf.subarray(begins, begins + length);
  }
  return null;
}

const text = (bytes: Uint8Array): string => String.fromCharCode(...bytes.subarray(0, 2000));

function find(bytes: Uint8Array, word: string, from: number): number {
  const first = word.charCodeAt(0);
  for (let at = bytes.indexOf(first, from); at >= 0; at = bytes.indexOf(first, at + 1)) {
    let k = 1;
    while (k < word.length && bytes[at + k] === word.charCodeAt(k)) k++;
    if (k === word.length) return at;
  }
  return -1;
}
