/** Start of image, and what a scan begins with. */
const SOI = 0xffd8;
const SCAN = 0xda;
/** Markers of a frame: all from C0 to CF but the tables for coding (C4, C8, CC). */
const isFrame = (marker: number): boolean =>
  marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);

/** Width and height of a JPEG picture (ITU-T T.81, annex B); null where the bytes are none, or end too soon. */
export function jpegSize(bytes: Buffer): { width: number; height: number } | null {
  if (bytes.length < 4 || bytes.readUInt16BE(0) !== SOI) return null;
  let at = 2;
  while (at + 9 < bytes.length) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1] ?? 0;
    if (marker === SCAN) return null;
    if (isFrame(marker)) {
      const size = { height: bytes.readUInt16BE(at + 5), width: bytes.readUInt16BE(at + 7) };
      return size.width > 0 && size.height > 0 ? size : null;
    }
    at += 2 + bytes.readUInt16BE(at + 2);
  }
  return null;
}
