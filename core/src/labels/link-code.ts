const DIGITS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
/** 128 bits, six to a digit. */
const LENGTH = 22;

/**
 * A link's id as 22 characters, so that a QR stays coarse enough to be read off a small label (base64url of RFC 4648).
 * @throws RangeError for what is no UUID
 */
export function linkCode(id: string): string {
  if (!UUID.test(id)) throw new RangeError(`${id} is no UUID.`);
  let left = BigInt(`0x${id.replaceAll('-', '')}`) << 4n;
  let code = '';
  for (let at = 0; at < LENGTH; at++) {
    code = `${DIGITS[Number(left & 63n)] ?? ''}${code}`;
    left >>= 6n;
  }
  return code;
}

/** The id that a code stands for; null where it stands for none. */
export function linkOfCode(code: string): string | null {
  if (!/^[A-Za-z0-9_-]{22}$/.test(code)) return null;
  let value = 0n;
  for (const digit of code) value = (value << 6n) | BigInt(DIGITS.indexOf(digit));
  if ((value & 15n) !== 0n) return null;
  const hex = (value >> 4n).toString(16).padStart(32, '0');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

/** What a label's QR says: where its link is opened. */
export const labelAddress = (address: string, linkId: string): string => `${address}/l/${linkCode(linkId)}`;

/** The link that a scanned text names; null where it is no label of ours. */
export function linkScanned(text: string): string | null {
  const code = /\/l\/([A-Za-z0-9_-]{22})$/.exec(text.trim())?.[1];
  return code === undefined ? null : linkOfCode(code);
}
