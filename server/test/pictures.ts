/** Segments of a JPEG of one pixel, as far as anybody has to look who does not paint it. */
const SOI = [0xff, 0xd8];
const FRAME = [0xff, 0xc0, 0, 17, 8, 0, 1, 0, 1, 3, 1, 0x11, 0, 2, 0x11, 1, 3, 0x11, 1];
const SCAN = [0xff, 0xda, 0, 12, 3, 1, 0, 2, 0x11, 3, 0x11, 0, 63, 0];

const segment = (marker: number, text: string): number[] => {
  const bytes = [...Buffer.from(text)];
  return [0xff, marker, (bytes.length + 2) >> 8, (bytes.length + 2) & 0xff, ...bytes];
};

const HEAD = segment(0xe0, 'JFIF\0\u0001\u0002');

/** A JPEG picture; another `tint` is another picture. */
export const picture = (tint = 0): Buffer =>
  Buffer.from([...SOI, ...HEAD, ...FRAME, ...SCAN, tint, 0xff, 0xd9]);

/** The same picture as a camera writes it: with where and when it was taken, and a comment. */
export const asTaken = (tint = 0): Buffer =>
  Buffer.from([
    ...SOI,
    ...HEAD,
    ...segment(0xe1, 'Exif\0\0GPS 46.2 N 6.1 E'),
    ...segment(0xed, 'IPTC, by somebody'),
    ...segment(0xfe, 'taken in the attic'),
    ...FRAME,
    ...SCAN,
    tint,
    0xff,
    0xd9,
  ]);
