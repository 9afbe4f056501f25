import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonicalJson } from './canonical.js';

/** 64 hexadecimal digits. */
export type Digest = string;

/** SHA-256 of bytes. */
export const digestOfBytes = (bytes: Uint8Array): Digest => bytesToHex(sha256(bytes));

/** SHA-256 (FIPS 180-4) of a text as UTF-8. */
export const digestOfText = (text: string): Digest => digestOfBytes(utf8ToBytes(text));

/** SHA-256 of the one text that a JSON value has (`canonicalJson`). */
export const digestOf = (value: unknown): Digest => digestOfText(canonicalJson(value));

/** A digest in groups that can be read out and compared: all of it, or its first groups. */
export const digestInGroups = (digest: Digest, groups = 16): string =>
  (digest.match(/.{1,4}/g) ?? []).slice(0, groups).join(' ');
