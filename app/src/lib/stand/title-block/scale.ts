/** The longest of 1, 2 or 5 times a power of ten mm that is at most so many pixels. @param scale mm a pixel */
export function scaleBar(scale: number, pixels: number): { mm: number; pixels: number } {
  const most = Math.max(scale, 1e-12) * pixels;
  const ten = 10 ** Math.floor(Math.log10(most));
  const digit = [5, 2, 1].find((n) => n * ten <= most * (1 + 1e-9))!;
  return { mm: digit * ten, pixels: (digit * ten) / scale };
}

/** A length in the unit it is short in: "10 mm", "2 m", "50 µm". */
export function shortLength(mm: number): string {
  const [n, unit] = mm >= 1000 ? [mm / 1000, 'm'] : mm >= 0.1 ? [mm, 'mm'] : [mm * 1000, 'µm'];
  return `${Number(n.toPrecision(3)).toLocaleString('en')} ${unit}`;
}
