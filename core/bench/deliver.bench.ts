import { BufferAttribute, BufferGeometry, Mesh, MeshStandardMaterial } from 'three';
import { GLTFExporter } from 'three/examples/jsm/exporters/GLTFExporter.js';
import { OBJExporter } from 'three/examples/jsm/exporters/OBJExporter.js';
import { differenceAt } from '../src/deliver/difference.ts';
import { destinations } from '../src/deliver/destination.ts';
import { receive } from '../src/deliver/receive.ts';
import { formats, writeMesh } from '../src/formats/registry.ts';
import { type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { triangulate } from '../src/mesh/triangulate.ts';
import { Reference } from '../src/reference/reference.ts';
import { box, quadSphere } from '../src/shapes/start-shapes.ts';
import { Subdivision } from '../src/subdivide/subdivision.ts';
import { best, head, line, referenceLoop } from './measure.ts';

/** Faces along a side of a ball of about half a million faces. */
const ACROSS = 289;

/** What the exporter of another library asks of a browser. */
class FileReaderOfNode {
  result: ArrayBuffer | undefined;
  onloadend: (() => void) | undefined;
  readAsArrayBuffer(blob: Blob): void {
    void blob.arrayBuffer().then((buffer) => {
      this.result = buffer;
      this.onloadend?.();
    });
  }
}

function asThree(mesh: PolygonMesh): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(mesh.positions), 3));
  geometry.setIndex(new BufferAttribute(Uint32Array.from(triangulate(mesh).triangles), 1));
  geometry.computeVertexNormals();
  return new Mesh(geometry, new MeshStandardMaterial());
}

async function bestOf(runs: number, work: () => Promise<unknown>): Promise<number> {
  let least = Infinity;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await work();
    least = Math.min(least, performance.now() - start);
  }
  return least;
}

/** Largest difference that the measure has from a slow one, mm: every vertex of both surfaces, seven levels deep. */
function measureOff(): number {
  const mesh = { ...box({ x: 20, y: 12, z: 16 }, { x: 2, y: 2, z: 2 }), creaseEdges: Int32Array.of(0, 1), creaseSharpness: Float64Array.of(2.5) };
  const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
  const received = receive(
    { mesh, settings },
    destinations.find(({ id }) => id === 'model-room')!,
    formats.find(({ id }) => id === 'usda')!
  );
  const [a, b] = [mesh, received.mesh].map((m) => new Subdivision(m, { ...settings, levels: 7, limit: true }).toPolygons(m));
  const slow = Math.max(
    ...[new Reference(a).distances(b.positions), new Reference(b).distances(a.positions)].map((d) => d.reduce((m, x) => Math.max(m, x), 0))
  );
  return Math.abs(slow - differenceAt({ mesh, settings }, received)!);
}

/** Writing half a million faces beside another library's exporters, and how exact a difference is measured. */
export async function deliverBench(): Promise<void> {
  head('Deliver');
  line('fixed loop of 1e8 additions, for comparison', best(3, referenceLoop), 'ms');
  const ball = quadSphere(50, ACROSS);
  const own = (id: string) =>
    best(2, () =>
      writeMesh(
        ball,
        formats.find((f) => f.id === id)!
      )
    );
  const three = asThree(ball);
  const theirObj = best(2, () => new OBJExporter().parse(three));
  (globalThis as { FileReader?: unknown }).FileReader = FileReaderOfNode;
  // it takes triangles with normals: to make them of quads is part of the work
  const theirGltf = await bestOf(2, () => new GLTFExporter().parseAsync(asThree(ball), { binary: true }));
  const [obj, glb, usda] = ['obj', 'glb', 'usda'].map(own);
  const faces = (ball.faceStart.length - 1).toLocaleString('en');
  line(`${faces} faces as OBJ`, obj, 'ms');
  line('  share of what the other exporter takes', obj / theirObj, '', { most: 0.5 });
  line(`${faces} faces as glTF binary, cage and marks in it`, glb, 'ms');
  line('  share of what the other exporter takes for triangles alone', glb / theirGltf, '', { most: 0.5 });
  line(`${faces} faces as usda (there is no other exporter for it)`, usda, 'ms');
  line('difference at a place, off a slow measure', 1000 * measureOff(), 'µm', { most: 0.1 });
}
