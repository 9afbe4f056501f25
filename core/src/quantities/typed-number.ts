/**
 * A figure as a person types it, with a decimal point or a comma and blanks about it. Not a number
 * where the field is empty or holds anything else.
 */
export function typedNumber(text: string): number {
  const plain = text.trim().replace(',', '.');
  return plain === '' ? Number.NaN : Number(plain);
}
