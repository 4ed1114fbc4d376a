import { type Condition } from '../brief/conditions.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { bellows } from './bellows.ts';
import { channelBuoy } from './channel-buoy.ts';
import { deckGrating } from './deck-grating.ts';
import { hornThroat } from './horn-throat.ts';
import { lampHousing } from './lamp-housing.ts';
import { lumpyFoot, marshNewt } from './marsh-newt.ts';
import { mooringCleat } from './mooring-cleat.ts';
import { ventElbow } from './vent-elbow.ts';

/** A job that ships with the program: where its mesh comes from, and what there is to do. */
export interface DemoJob {
  id: string;
  name: string;
  kind: 'reference' | 'cage';
  brief: string;
  /** what one learns by it, in one or two sentences */
  teaches: string;
  /** how long it takes, about */
  minutes: number;
  /** when it is done */
  doneWhen: readonly Condition[];
  make(): PolygonMesh;
}

/** Demo jobs of the Saltmarsh Fog Signal Station, made once at set-up and shipped as files. */
export const demoJobs: readonly DemoJob[] = [
  {
    id: 'marsh-newt',
    name: 'Marsh newt',
    kind: 'reference',
    brief:
      'The gift shop of the Saltmarsh Fog Signal Station wants its newt cast. The sculpt has 200,000 triangles: lay about 4,000 quads over it (bench 2, Auto quads). Then lay one leg by hand: delete a stretch of a shin, click two or three Limb loops there, and bridge the gaps (bench 5). Look at it smooth (T), and deliver the cage as usda.',
    teaches: 'A sculpt of 200,000 triangles becomes 4,000 even quads, smooth and alike on both sides, gets a leg laid by hand, and leaves as a file.',
    minutes: 5,
    doneWhen: [
      { is: 'count', from: 3500, to: 4500 },
      { is: 'quads-only' },
      { is: 'symmetric', axis: 'X', within: 0.001 },
      { is: 'surface', within: 0.3 },
      { is: 'by-hand', least: 24 },
      { is: 'delivered', as: 'usda' }
    ],
    make: () => marshNewt()
  },
  {
    id: 'newt-foot',
    name: 'Newt foot',
    kind: 'cage',
    brief:
      "Somebody pulled the newt's left hind foot together in a hurry: lumpy, its quads uneven. Even it out (bench 6: the brush Relax, or Relax area with nothing picked) until the spread is 0.21, with the volume still there. Plain smoothing looks fine from the front; look from the side.",
    teaches: 'A lumpy foot becomes even and keeps its volume, where plain smoothing thins its toes.',
    minutes: 3,
    doneWhen: [{ is: 'spread', most: 0.21 }, { is: 'volume', from: 1200, to: 1280 }, { is: 'quads-only' }, { is: 'delivered' }],
    make: () => lumpyFoot()
  },
  {
    id: 'lamp-housing',
    name: 'Lamp housing',
    kind: 'reference',
    brief:
      'The housing of the lamp comes as an engineer exports it: slivers along every rounded edge. Read its surfaces as faces (bench 2, Cage from regions), divide them once (bench 3), then Hold the smooth surface to it (bench 2), until it lies within 0.1 mm.',
    teaches: "An engineer's triangles become a cage of 384 quads whose smooth surface is the part.",
    minutes: 2,
    doneWhen: [{ is: 'count', from: 20, to: 400 }, { is: 'quads-only' }, { is: 'closed' }, { is: 'surface', within: 0.1 }, { is: 'delivered' }],
    make: lampHousing
  },
  {
    id: 'mooring-cleat',
    name: 'Mooring cleat',
    kind: 'cage',
    brief:
      'A plain cage of the cleat on the landing stage. Look at it smooth (T): base and horns are far too soft. Keep their edges firm: with creases in one go (bench 4, Crease by angle), or with support loops (Brace). Compare both, and look in Deliver at what arrives where creases are not known.',
    teaches: 'Keep edges firm where a cage is far too soft: crease, brace, compare.',
    minutes: 6,
    doneWhen: [{ is: 'firm', least: 12 }, { is: 'quads-only' }, { is: 'closed' }, { is: 'delivered' }],
    make: mooringCleat
  },
  {
    id: 'channel-buoy',
    name: 'Channel buoy',
    kind: 'cage',
    brief:
      'The drawing office left a mess: n-gons, triangles on bends, turned faces, doubled vertices, six holes. Pick all borders by their number in the readings, and fill them (bench 5, Quad grid). Then let the check mend all of a kind (bench 7): first the n-gons, then the triangles.',
    teaches: 'Clean up a mess: n-gons, triangles on bends, turned faces, doubled vertices, six holes.',
    minutes: 8,
    doneWhen: [{ is: 'no-ngons' }, { is: 'closed' }, { is: 'islands', count: 1 }, { is: 'quads-only' }, { is: 'delivered' }],
    make: channelBuoy
  },
  {
    id: 'vent-elbow',
    name: 'Vent elbow',
    kind: 'cage',
    brief:
      'The elbow of the vent over the engine room bulges in its bend, and its flange comes out far too soft, though it is made of clean quads. Look at it smooth (T), and let the check say where and why (bench 7): the list frames each finding, and mends it.',
    teaches: 'Find the face that makes a bulge, run its cut out, and brace a clean corner that is too soft.',
    minutes: 4,
    doneWhen: [{ is: 'quads-only' }, { is: 'check', most: 0 }, { is: 'firm', least: 16 }, { is: 'delivered' }],
    make: ventElbow
  },
  {
    id: 'deck-grating',
    name: 'Deck grating',
    kind: 'cage',
    brief:
      "The grating in front of the horn house is drawn as one flat panel, askew on the deck. Slice it in its own frame (bench 3, Slice set, along the panel's own frame), inset the cells each by itself and delete them, then twist the grating and bend it along a curve.",
    teaches: 'Slice a panel that lies askew, inset its cells, twist and bend it along a curve.',
    minutes: 5,
    doneWhen: [{ is: 'count', from: 200, to: 4000 }, { is: 'holes', least: 30 }, { is: 'quads-only' }, { is: 'delivered' }],
    make: deckGrating
  },
  {
    id: 'bellows',
    name: 'Bellows',
    kind: 'cage',
    brief:
      'The bellows of the fog horn have 84 sides, twice as many as they need. Thin them out to 42 (bench 3, Thin out, on an edge picked lengthwise): the rims keep all their vertices, so that they fit their flanges, with transition quads beside them. Then bevel the ridges with a round profile.',
    teaches: 'Halve the sides of a tube and keep its rims, then bevel the ridges with a round profile.',
    minutes: 6,
    doneWhen: [{ is: 'loop', edges: 42 }, { is: 'quads-only' }, { is: 'holes', least: 2 }, { is: 'delivered' }],
    make: bellows
  },
  {
    id: 'horn-throat',
    name: 'Horn throat',
    kind: 'cage',
    brief:
      "The fog horn's round throat stands 30 mm off its square flange: 20 edges against 12. Bridge the two rims with quads alone, in a few rows that continue the faces on both sides, and brace the square rim at 1.5 mm, but not the round one.",
    teaches: 'Bridge a round rim to a square one with quads alone, and brace one of them.',
    minutes: 4,
    doneWhen: [{ is: 'islands', count: 1 }, { is: 'quads-only' }, { is: 'firm', least: 12 }, { is: 'delivered' }],
    make: hornThroat
  }
];
