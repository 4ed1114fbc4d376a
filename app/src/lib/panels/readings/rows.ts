import {
  findAll,
  millimetres,
  selectEdges,
  selectFaces,
  selectVertices,
  skewFaces,
  unevenEdges,
  type Cage,
  type Deviation,
  type Measures,
  type Selection
} from '@ulvrin/core';
import type { Deviations } from '$lib/tasks/task.worker.ts';

/** One number of the readings. */
export interface Row {
  label: string;
  value: string;
  /** what a bar beside it fills, from and to, 0 to 1; left out: it has none */
  bar?: [from: number, to: number];
  /** it needs half the width */
  short?: boolean;
  /** it asks for a look */
  warns?: boolean;
  /** picks what it counts */
  pick?: () => Selection;
  hint: string;
}

export interface Group {
  heading: string;
  rows: Row[];
}

const many = (n: number) => n.toLocaleString('en');

function facesAndPoles(cage: Cage, m: Measures): Row[] {
  const share = (n: number): [number, number] => [0, m.faces ? n / m.faces : 0];
  const others = m.triangles + m.ngons;
  return [
    {
      label: 'Quads',
      value: `${many(m.quads)} (${m.faces ? Math.floor((1000 * m.quads) / m.faces) / 10 : 0} %)`,
      bar: share(m.quads),
      pick: () => findAll(cage, 'quads'),
      hint: 'Pick all quads'
    },
    {
      label: 'Triangles',
      short: true,
      value: many(m.triangles),
      bar: share(m.triangles),
      warns: m.triangles > 0,
      pick: () => findAll(cage, 'triangles'),
      hint: 'Pick all triangles'
    },
    {
      label: 'N-gons',
      short: true,
      value: many(m.ngons),
      bar: share(m.ngons),
      warns: m.ngons > 0,
      pick: () => findAll(cage, 'n-gons'),
      hint: 'Pick all n-gons'
    },
    ...m.poles.map((p): Row => ({
      label: `Poles of ${p.valence}`,
      short: true,
      value: many(p.count),
      bar: [0, m.vertices ? Math.min(1, (8 * p.count) / m.vertices) : 0],
      warns: others > 0 && p.valence > 6,
      pick: () => findAll(cage, 'poles', p.valence),
      hint: `Pick poles of ${p.valence} edges; the bar is full at one vertex in eight`
    }))
  ];
}

const bordersAndIslands = (cage: Cage, m: Measures): Row[] => [
  { label: 'Borders', short: true, value: many(m.borders), pick: () => findAll(cage, 'borders'), hint: 'Pick all border edges' },
  { label: 'Islands', short: true, value: many(m.islands), hint: 'Separate pieces of this part' }
];

const evenness = (cage: Cage, m: Measures): Row[] => [
  {
    label: 'Spread',
    value: m.spacing.toFixed(2),
    bar: [0, Math.min(1, m.spacing)],
    pick: () => selectEdges(unevenEdges(cage)),
    hint: 'How much edge lengths differ: their standard deviation over their mean. Pick edges that are far off'
  },
  {
    label: 'Edge length',
    value: `${millimetres(m.edgeLength.least, m.edgeLength.most)} – ${millimetres(m.edgeLength.most)} mm`,
    pick: () => selectEdges(unevenEdges(cage)),
    hint: 'Pick edges that are far from the mean'
  },
  {
    label: 'Corner angles',
    value: `${m.corners.least.toFixed(0)}° – ${m.corners.most.toFixed(0)}°`,
    bar: [m.corners.least / 180, m.corners.most / 180],
    warns: m.corners.least < 15 || m.corners.most > 165,
    pick: () => selectFaces(skewFaces(cage)),
    hint: 'Pick faces with a corner below 45° or above 135°'
  }
];

/** The tenth of the vertices that is farthest off. The first points of the smooth surface are those of the cage's vertices. */
function farVertices(cage: Cage, { distance }: Deviation): Selection {
  const ids = [...cage.vertices()];
  const limit = distance.slice(0, ids.length).sort()[Math.floor(0.9 * ids.length)];
  return selectVertices(ids.filter((_, i) => distance[i] >= limit));
}

const fit = (cage: Cage, { vertices, smooth }: Deviations): Row[] =>
  (
    [
      ['Vertices', vertices],
      ['Smooth surface', smooth]
    ] as const
  ).map(([label, deviation]) => ({
    label: label,
    value: `${millimetres(deviation.mean, deviation.most)} / ${millimetres(deviation.most)} mm`,
    bar: [0, deviation.most > 0 ? deviation.mean / deviation.most : 0],
    pick: () => farVertices(cage, deviation),
    hint: 'Distance to the reference; the bar is the mean beside the max. Pick the tenth of the vertices that is farthest off'
  }));

/** The readings of a cage, in groups. @param deviations from the reference, where they have been measured */
export function readingsOf(cage: Cage, measures: Measures, deviations: Deviations | undefined): Group[] {
  const groups = [
    { heading: 'Faces, poles and borders', rows: [...facesAndPoles(cage, measures), ...bordersAndIslands(cage, measures)] },
    { heading: 'Evenness', rows: evenness(cage, measures) }
  ];
  return deviations ? [...groups, { heading: 'Off the reference, mean / max', rows: fit(cage, deviations) }] : groups;
}
