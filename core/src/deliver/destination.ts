import Joi from 'joi';

/** How a simulated program at the other end treats what it is sent. */
export interface Destination {
  id: string;
  name: string;
  /** one sentence: what kind of place it is */
  about: string;
  /** creases as they are, none, or an edge from some sharpness on wholly sharp and all others smooth */
  creases: 'keeps' | 'ignores' | 'sharp or smooth';
  /** faces as they are, n-gons cut as a fan from their first corner, or quads too */
  faces: 'keeps' | 'fans n-gons' | 'triangles';
  /** border corners of its smooth surface */
  borders: 'sharp' | 'rounded';
  /** levels that it divides without smoothing before it smooths */
  dividesFirst: number;
  /** levels it shows: 0 shows the faces as they come; more are taken for the smooth surface itself */
  levels: number;
  /** most faces it takes; 0: as many as come */
  mostFaces: number;
  /** mm that it takes a number for, where a file does not say */
  millimetresPerUnit: number;
  upAxis: 'Y' | 'Z';
}

/** Sharpness from which on a place that knows sharp and smooth only takes an edge for sharp. */
export const SHARP_FROM = 1;

/** Schema of a described destination, as it is exported and imported. */
export const destinationSchema = Joi.object({
  id: Joi.string()
    .pattern(/^[a-z0-9-]{1,40}$/)
    .required(),
  name: Joi.string().trim().min(1).max(60).required(),
  about: Joi.string().allow('').max(300).default(''),
  creases: Joi.string().valid('keeps', 'ignores', 'sharp or smooth').required(),
  faces: Joi.string().valid('keeps', 'fans n-gons', 'triangles').required(),
  borders: Joi.string().valid('sharp', 'rounded').required(),
  dividesFirst: Joi.number().integer().min(0).max(3).default(0),
  levels: Joi.number().integer().min(0).max(6).required(),
  mostFaces: Joi.number().integer().min(0).max(1e8).default(0),
  millimetresPerUnit: Joi.number().greater(0).max(1e6).default(1),
  upAxis: Joi.string().valid('Y', 'Z').default('Y')
});

const place = (id: string, name: string, about: string, own: Partial<Destination> = {}): Destination => ({
  id,
  name,
  about,
  creases: 'keeps',
  faces: 'keeps',
  borders: 'sharp',
  dividesFirst: 0,
  levels: 3,
  mostFaces: 0,
  millimetresPerUnit: 1,
  upAxis: 'Y',
  ...own
});

/** Destinations that come with the application. */
export const destinations: readonly Destination[] = [
  place('pattern-shop', 'Pattern shop', 'Smooths as we do, and keeps creases.'),
  place('model-room', 'Model room', 'Smooths as we do, and knows no creases.', { creases: 'ignores' }),
  place('engine-works', 'Engine works', 'Knows edges that are sharp and edges that are smooth, and nothing between.', { creases: 'sharp or smooth' }),
  place('tile-store', 'Tile store', 'Cuts n-gons as fans from their first corner before it smooths.', { faces: 'fans n-gons' }),
  place('print-house', 'Print house', 'Takes triangles as they are, and smooths nothing.', { faces: 'triangles', creases: 'ignores', levels: 0 }),
  place('sail-loft', 'Sail loft', 'Smooths borders round their corners too.', { borders: 'rounded' }),
  place('casting-floor', 'Casting floor', 'Divides once without smoothing before it smooths: curves keep facets.', {
    dividesFirst: 1,
    creases: 'ignores'
  }),
  place('chart-office', 'Chart office', 'Takes up to 5,000 faces, and shows them as they come.', { mostFaces: 5000, levels: 0 }),
  place('overseas-yard', 'Overseas yard', 'Counts in inches, with Z up, where a file does not say.', { millimetresPerUnit: 25.4, upAxis: 'Z' }),
  place('carving-bench', 'Carving bench', 'Subdivides without creases to carve detail into what comes of it.', { creases: 'ignores', levels: 5 })
];
