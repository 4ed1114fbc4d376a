/** "1 face", "2 faces"; for words that are not made plural by an s alone the plural is given. */
export const counted = (n: number, noun: string, plural = `${noun}s`): string => `${n.toLocaleString('en')} ${n === 1 ? noun : plural}`;

/** How many faces there are more, or fewer, than before. */
export const facesChanged = (change: number): string =>
  change === 0 ? 'as many faces as before' : `${counted(Math.abs(change), 'face')} ${change > 0 ? 'more' : 'fewer'}`;
