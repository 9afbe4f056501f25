/**
 * Labels that follow one another: the figures at the end count up and keep their width.
 * `P1-09` for three gives `P1-09`, `P1-10`, `P1-11`. A label without figures gets ` 2`, ` 3`.
 */
export function labelSeries(first: string, count: number): string[] {
  const [, stem = first, digits = ''] = /^(.*?)(\d*)$/.exec(first) ?? [];
  if (digits === '') return Array.from({ length: count }, (_, i) => (i === 0 ? first : `${first} ${i + 1}`));
  return Array.from(
    { length: count },
    (_, i) => `${stem}${String(BigInt(digits) + BigInt(i)).padStart(digits.length, '0')}`,
  );
}
