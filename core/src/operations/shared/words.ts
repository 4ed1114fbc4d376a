/** "1 face", "2 faces"; for words that are not made plural by an s alone the plural is given. */
export const counted = (n: number, noun: string, plural = `${noun}s`): string => `${n.toLocaleString('en')} ${n === 1 ? noun : plural}`;
