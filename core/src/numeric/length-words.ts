/** Lengths below this many mm are rounding. */
const EXACT = 1e-6;

/** A length in the digits that matter: "0.23 mm", "0.0031 mm", "5.12 mm", "12.4 mm", "0 mm"; "exact" for what rounding alone leaves. */
export function lengthInWords(mm: number): string {
  if (mm !== 0 && Math.abs(mm) < EXACT) return 'exact';
  const size = Math.floor(Math.log10(Math.abs(mm)));
  const digits = mm === 0 || size > 1 ? 0 : size === 1 ? 1 : Math.min(6, Math.max(2, 1 - size));
  return `${mm.toFixed(digits)} mm`;
}

/** "mean 0.010 mm, max 0.23 mm"; "exact" where rounding alone is left. */
export function spreadInWords({ mean, most }: { mean: number; most: number }): string {
  const [low, high] = [lengthInWords(mean), lengthInWords(most)];
  return high === 'exact' || most === 0 ? 'exact' : `mean ${low}, max ${high}`;
}

/** A length in mm with the digits that matter beside another: 0.23, 12.4, 1,250. */
export function millimetres(mm: number, beside = mm): string {
  const large = Math.max(Math.abs(mm), Math.abs(beside));
  if (large === 0) return '0';
  const digits = Math.max(0, Math.min(6, 2 - Math.floor(Math.log10(large))));
  return mm.toLocaleString('en', { minimumFractionDigits: Math.min(digits, 2), maximumFractionDigits: digits });
}

/** A change in percent with its sign: "+0.00 %", "-1.92 %". */
export function changeInWords(percent: number, digits: number): string {
  const size = Math.abs(percent).toFixed(digits);
  return `${percent < 0 && Number(size) > 0 ? '-' : '+'}${size} %`;
}
