import { Color } from 'three';
import { regionList, regionName, vertexColour } from '@ulvrin/core';
import type { Paint } from './overlay.ts';
import { quietColour } from './flow-paints.ts';

/** A quiet colour for a region by its number. */
const regionColour = (id: number) => quietColour(id === 0 ? -1 : id);

/** The regions of a cage, each in a quiet colour of its own. */
export const regions: Paint = {
  id: 'regions',
  label: 'regions',
  name: 'Regions',
  help: 'Named groups of faces, each in a colour of its own',
  ramp: 'even',
  unit: '',
  values(cage) {
    const values = Float64Array.from(cage.faces(), (f) => cage.value('region', f));
    if (values.length === 0) return undefined;
    return { by: 'face', values, colours: Float32Array.from([...values].flatMap(regionColour)), low: 0, high: 1 };
  },
  legend: (cage) => {
    const many = regionList(cage).length || 1;
    return `${many} ${many === 1 ? 'region' : 'regions'}`;
  },
  say: regionName,
  why: () => undefined
};

/** The colours that vertices carry. */
export const colours: Paint = {
  id: 'colours',
  label: 'colours',
  name: 'Colours',
  help: 'Colours painted on vertices, or brought in with them',
  ramp: 'even',
  unit: '',
  values(cage) {
    const data = cage.layers.get('colour')?.data;
    const own = new Color();
    const of = (v: number) =>
      (data ? own.setRGB(data[3 * v], data[3 * v + 1], data[3 * v + 2], 'srgb') : own.setRGB(0.5, 0.5, 0.5, 'srgb')).toArray();
    const vertices = [...cage.vertices()];
    if (vertices.length === 0) return undefined;
    return { by: 'point', values: Float64Array.from(vertices), colours: Float32Array.from(vertices.flatMap(of)), low: 0, high: 1 };
  },
  legend: (cage) => (cage.layers.has('colour') ? 'painted' : 'none painted'),
  say: (cage, vertex) => vertexColour(cage, vertex) ?? 'none',
  why: () => undefined
};
