/** "1 face", "2 faces". */
export const counted = (n: number, noun: string): string => `${n.toLocaleString('en')} ${noun}${n === 1 ? '' : 's'}`;
