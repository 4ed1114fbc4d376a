/** Kinds of findings by id, as words: as a heading, and one and many of them in a sentence. */
const NAMES: Record<string, readonly [heading: string, one: string, many: string]> = {
  triangle: ['Triangles', 'triangle', 'triangles'],
  'n-gon': ['N-gons', 'n-gon', 'n-gons'],
  'cut-end': ['Cuts that end in a face', 'cut that ends in a face', 'cuts that end in a face'],
  'unbraced-corner': ['Corners without a brace', 'corner without a brace', 'corners without a brace'],
  pole: ['Poles of many edges', 'pole of many edges', 'poles of many edges'],
  'poles-together': ['Poles next to each other', 'pair of poles next to each other', 'pairs of poles next to each other'],
  folded: ['Folded quads', 'folded quad', 'folded quads'],
  'straight-corner': ['Quads with a straight corner', 'quad with a straight corner', 'quads with a straight corner'],
  twisted: ['Twisted quads', 'twisted quad', 'twisted quads'],
  'size-jump': ['Sudden changes of size', 'sudden change of size', 'sudden changes of size'],
  crack: ['Cracks', 'crack', 'cracks'],
  tee: ['Vertices on edges', 'vertex on an edge', 'vertices on edges'],
  hole: ['Holes', 'hole', 'holes'],
  'open-border': ['Open borders', 'open border', 'open borders'],
  turned: ['Pieces turned inside out', 'piece turned inside out', 'pieces turned inside out'],
  inside: ['Pieces inside another', 'piece inside another', 'pieces inside another'],
  spiral: ['Strips that spiral', 'strip that spirals', 'strips that spiral'],
  'open-crease': ['Creases that end in the open', 'crease that ends in the open', 'creases that end in the open'],
  'far-off': ['Far from the reference', 'place far from the reference', 'places far from the reference'],
  'nearly-symmetric': ['Nearly symmetric', 'part nearly symmetric', 'parts nearly symmetric']
};

/** Ids of all kinds of findings. */
export const kindIds: readonly string[] = Object.keys(NAMES);

/** A kind as a heading. */
export const kindHeading = (id: string): string => NAMES[id]?.[0] ?? id;

/** So many findings of a kind: "3 folded quads". */
export const kindCounted = (id: string, many: number): string => `${many.toLocaleString('en')} ${NAMES[id]?.[many === 1 ? 1 : 2] ?? id}`;
