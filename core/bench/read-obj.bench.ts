import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { obj } from '../src/formats/obj.ts';
import { writeMesh } from '../src/formats/registry.ts';
import { denseTorus } from '../src/shapes/sample-surfaces.ts';
import { best, head, line } from './measure.ts';

/** Reading OBJ text, against three.js's OBJLoader on the same text. */
export function readObjBench(): void {
  head('OBJ of 500,000 triangles');
  const bytes = writeMesh(denseTorus(1000, 250), obj);
  const text = new TextDecoder().decode(bytes);
  const own = best(4, () => obj.read(bytes));
  const other = best(3, () => new OBJLoader().parse(text));
  line('read (bytes to polygons)', own, 'ms');
  line('  compared: three.js OBJLoader (text to triangles)', other, 'ms');
  line('  ratio', own / other, 'x', { most: 0.5 });
}
