import type { PhotoHead } from '@near-spoke/contracts';
import { createHash } from 'node:crypto';
import { badField } from './problems.js';

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

/** Segments that say how the picture is to be seen: the head (APP0), colours (ICC in APP2), how they were mixed (APP14). */
const KEPT = new Set([0xe0, 0xe2, 0xee]);
/** What a camera or a program writes beside the picture: APPn and comments. */
const isRemark = (marker: number): boolean =>
  marker === 0xfe || (marker >= 0xe0 && marker <= 0xef && !KEPT.has(marker));

/**
 * A JPEG without what was written beside its picture: place, time and make of the camera, thumbnails, comments. Null where the
 * bytes are no JPEG, or end too soon.
 */
export function bareJpeg(bytes: Buffer): Buffer | null {
  if (jpegSize(bytes) === null) return null;
  const kept: Buffer[] = [bytes.subarray(0, 2)];
  let at = 2;
  while (at + 4 <= bytes.length && bytes[at] === 0xff) {
    const marker = bytes[at + 1] ?? 0;
    // The scan and all after it is picture.
    if (marker === SCAN) return Buffer.concat([...kept, bytes.subarray(at)]);
    const ends = at + 2 + bytes.readUInt16BE(at + 2);
    if (!isRemark(marker)) kept.push(bytes.subarray(at, ends));
    at = ends;
  }
  return null;
}

/**
 * The picture that somebody sent as base64, bare.
 *
 * @throws Refusal 400 where it is none
 */
export function bareOf(jpeg: string): Buffer {
  const bare = bareJpeg(Buffer.from(jpeg, 'base64'));
  if (!bare) throw badField('jpeg', 'The picture is damaged or cut short: take it again.', 400);
  return bare;
}

/** What is told of a bare picture. */
export function photoHeadOf(bare: Buffer): PhotoHead {
  const { width, height } = jpegSize(bare) ?? { width: 1, height: 1 };
  return {
    sha256: createHash('sha256').update(bare).digest('hex'),
    widthPx: width,
    heightPx: height,
    bytes: bare.length,
  };
}
