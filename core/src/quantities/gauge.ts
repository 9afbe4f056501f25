/**
 * Copper cross-section in mm² of an American wire gauge number.
 * A = 0.012668 · 92^((36 − AWG)/19.5) mm² (ASTM B258).
 */
export function awgAreaMm2(awg: number): number {
  return 0.012668 * 92 ** ((36 - awg) / 19.5);
}

/** Gauge as people read it: `24 AWG (0.21 mm²)`. */
export function formatGauge(awg: number): string {
  return `${awg} AWG (${awgAreaMm2(awg).toFixed(2)} mm²)`;
}
