import { cageFromRegions } from '../src/regions/cage-from-regions.ts';
import { findRegions } from '../src/regions/find-regions.ts';
import { denseSphere, machinedPart } from '../src/shapes/sample-surfaces.ts';
import { type KnownPart, knownParts } from '../testing/known-regions.ts';
import { best, head, line, referenceLoop } from './measure.ts';

const settings = { angle: 35 };

/** Area of a part that lies in the right region: one found region for each known one, of its kind. @returns mm2 that are right, and all */
function rightArea({ mesh, truth, kinds }: KnownPart): [right: number, all: number] {
  const { regions, regionOf, facets } = findRegions(mesh, settings);
  const shared = new Map<string, number>();
  truth.forEach((t, i) => shared.set(`${regionOf[i]} ${t}`, (shared.get(`${regionOf[i]} ${t}`) ?? 0) + facets.areas[i]));
  const [given, taken] = [new Set<number>(), new Set<number>()];
  let right = 0;
  for (const [key, area] of [...shared].sort((a, b) => b[1] - a[1])) {
    const [found, known] = key.split(' ').map(Number);
    if (given.has(known) || taken.has(found)) continue;
    given.add(known);
    taken.add(found);
    const { kind } = regions[found];
    if (kind === kinds[known] || (kind === 'fillet' && kinds[known] !== 'plane')) right += area;
  }
  return [right, facets.areas.reduce((sum, area) => sum + area, 0)];
}

/** Regions of parts that are known, of others, and of a million triangles. */
export function regionsBench(): void {
  head('Regions');
  line('fixed loop of 1e8 additions, for comparison', best(3, referenceLoop), 'ms');
  const parts = knownParts();
  const [right, all] = parts.map(rightArea).reduce(([a, b], [c, d]) => [a + c, b + d]);
  line(`area in the right region, ${parts.length} parts whose regions are known`, (100 * right) / all, '%', { least: 95 });
  const others = [...Array(12).keys()].map((seed) => findRegions(machinedPart(seed), settings).regions);
  const free = others.map((regions) => regions.filter(({ kind }) => kind === 'free').reduce((sum, { area }) => sum + area, 0));
  const whole = others.map((regions) => regions.reduce((sum, { area }) => sum + area, 0));
  line('of 12 parts cut by solids the area of no known surface', (100 * free.reduce((a, b) => a + b)) / whole.reduce((a, b) => a + b), '%');
  const rounded = parts.filter(({ name }) => name.startsWith('rounded'));
  line(
    'rounded boxes that became a cage of quads, of 8',
    rounded.filter(({ mesh }) => cageFromRegions(mesh, { ...settings, cuts: 4 }).left.length === 0).length,
    '',
    { least: 8 }
  );
  const turned = parts.filter(({ name }) => name.startsWith('turned'));
  line(
    'turned parts whose rings were cut into quads, of 8',
    turned.filter(({ mesh }) => cageFromRegions(mesh, { ...settings, cuts: 6 }).left.length === 0).length,
    '',
    { least: 8 }
  );
  const dense = denseSphere(289);
  line(
    `${(dense.faceVertices.length / 3).toLocaleString('en')} triangles parted into regions`,
    best(2, () => findRegions(dense, settings)),
    'ms',
    { most: 3000 }
  );
}
