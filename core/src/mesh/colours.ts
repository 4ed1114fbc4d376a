import { type Cage } from './cage.ts';

/** A colour as it is typed, # and six hexadecimal digits. @param colour red, green and blue from 0 to 1 */
export const colourToHex = (colour: Iterable<number>): string =>
  `#${Array.from(colour, (channel) =>
    Math.round(255 * channel)
      .toString(16)
      .padStart(2, '0')
  ).join('')}`;

/** Red, green and blue from 0 to 1 of a colour as it is typed. */
export const colourFromHex = (hex: string): number[] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255);

/** The colour of a vertex as it is typed; nothing where the cage has no colours. */
export function vertexColour(cage: Cage, v: number): string | undefined {
  const data = cage.layers.get('colour')?.data;
  return data && colourToHex(data.subarray(3 * v, 3 * v + 3));
}
