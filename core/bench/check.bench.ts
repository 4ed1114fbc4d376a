import { checkPart, lookThrough } from '../src/check/check-part.ts';
import { type Finding } from '../src/check/findings/finding.ts';
import { limitDistance } from '../src/check/limit-distance.ts';
import { assertValid } from '../src/mesh/assert-valid.ts';
import { Cage } from '../src/mesh/cage.ts';
import { randomNumbers } from '../src/numeric/random.ts';
import { length, subtract, type Triple } from '../src/numeric/vectors.ts';
import { applyOperation } from '../src/operations/apply.ts';
import { type CageOperation } from '../src/operations/operation.ts';
import { OperationRefused } from '../src/operations/refusal.ts';
import { operationById } from '../src/operations/registry.ts';
import { quadSphere } from '../src/shapes/start-shapes.ts';
import { plantedCage, type PlantedKind, plantedKinds } from '../testing/planted-defects.ts';
import { best, head, line, referenceLoop } from './measure.ts';

const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const CAGES = 40;
/** Edges within which a finding lies at a defect. */
const NEAR = 2;

/** Kinds of findings that name a planted defect rightly. */
const RIGHT: Record<PlantedKind, readonly string[]> = {
  triangle: ['triangle'],
  'n-gon': ['n-gon'],
  'cut end': ['cut-end'],
  concave: ['folded', 'straight-corner', 'twisted'],
  hole: ['hole'],
  crack: ['crack']
};

/** Places of values in their order. */
function ranks(values: readonly number[]): number[] {
  const order = values.map((x, i): [number, number] => [x, i]).sort((a, b) => a[0] - b[0]);
  const rank: number[] = [];
  order.forEach(([, i], k) => (rank[i] = k));
  return rank;
}

function spearman(a: readonly number[], b: readonly number[]): number {
  const [ra, rb] = [ranks(a), ranks(b)];
  const n = a.length;
  return 1 - (6 * ra.reduce((sum, x, i) => sum + (x - rb[i]) ** 2, 0)) / (n * (n * n - 1));
}

/** Findings against planted defects: how many are found, under which name, and what is told besides. */
export function checkBench(): void {
  head('Check');
  line('fixed loop of 1e8 additions, for comparison', best(3, referenceLoop), 'ms');
  const table = new Map(plantedKinds.map((kind) => [kind, new Map<string, number>()]));
  let [planted, found, first, alarms, decoysAbove] = [0, 0, 0, 0, 0];
  const [predicted, measured]: [number[], number[]] = [[], []];
  for (let seed = 0; seed < CAGES; seed++) {
    const one = plantedCage(seed);
    const findings = checkPart({ cage: one.cage, settings });
    const reach = NEAR * one.clean.edgeLength(0);
    const near = (f: Finding, p: Triple) => length(subtract(f.place, p)) < reach;
    one.planted.forEach(({ kind, place, isFlat }, i) => {
      planted++;
      const named = findings.filter((f) => near(f, place));
      const right = named.find((f) => RIGHT[kind].includes(f.kind));
      if (right) found++;
      const as = right?.kind ?? named[0]?.kind ?? 'nothing';
      const row = table.get(kind)!;
      row.set(as, (row.get(as) ?? 0) + 1);
      if (right?.unit !== 'mm' || !['triangle', 'n-gon'].includes(kind)) return;
      if (isFlat && findings.slice(0, findings.indexOf(right)).length < findings.filter((f) => f.visible).length) decoysAbove++;
      predicted.push(right.rank);
      measured.push(limitDistance({ mesh: one.clean.toPolygons(), settings }, { mesh: one.alone(i).toPolygons(), settings }, 12_000) ?? 0);
    });
    const top = findings.filter((f) => f.visible).slice(0, 10);
    first += top.length;
    alarms += top.filter((f) => !one.planted.some(({ place, other }) => near(f, place) || (other && near(f, other)))).length;
  }
  for (const [kind, row] of table) process.stdout.write(`  ${kind.padEnd(10)} ${[...row].map(([as, n]) => `${as} ${n}`).join(', ')}\n`);
  line(`of ${planted} planted defects found`, (100 * found) / planted, '%', { least: 95 });
  line(`of the first ten visible ones of each cage (${first}) false alarms`, (100 * alarms) / first, '%', { most: 5 });
  line(`rank against measured bulge, ${predicted.length} findings (Spearman)`, spearman(predicted, measured), '', { least: 0.8 });
  line('harmless ones ranked above a visible one', decoysAbove, '', { most: 0 });

  fixesBench();

  const large = Cage.fromPolygons(quadSphere(60, 130));
  const random = randomNumbers(5);
  for (let i = 0; i < 3 * large.vertexSlots; i++) large.positions[i] += 0.02 * (random() - 0.5);
  line(
    `${large.faceCount.toLocaleString('en')} quads checked`,
    best(2, () => checkPart({ cage: large, settings })),
    'ms',
    { most: 2000 }
  );
  const known = lookThrough({ cage: large, settings });
  const edited = large.clone();
  edited.positions[3 * 5000 + 1] += 0.5;
  line(
    'the same after one vertex was moved',
    best(5, () => lookThrough({ cage: edited, settings }, known)),
    'ms',
    { most: 50 }
  );
}

/** Defects whose fixes are tried. */
const DEFECTS = 500;

/** Every fix that is offered for some hundred defects: whether the finding is gone with it, and whether anything graver comes. */
function fixesBench(): void {
  let [defects, tried, gone, refused, graver] = [0, 0, 0, 0, 0];
  const not = new Map<string, number>();
  for (let seed = 100; defects < DEFECTS; seed++) {
    const { cage } = plantedCage(seed);
    const before = checkPart({ cage, settings }).filter((f) => f.visible);
    for (const finding of before) {
      if (defects++ >= DEFECTS) break;
      for (const { operation, pick, params } of finding.fixes) {
        tried++;
        let made: Cage;
        try {
          made = applyOperation(operationById(operation) as CageOperation, cage, pick, params, { surface: settings }).cage;
          assertValid(made);
        } catch (error) {
          if (!(error instanceof OperationRefused)) throw error;
          refused++;
          continue;
        }
        const after = checkPart({ cage: made, settings }).filter((f) => f.visible);
        const isGone = after.filter((f) => f.kind === finding.kind).length < before.filter((f) => f.kind === finding.kind).length;
        if (isGone) gone++;
        else not.set(`${finding.kind}: ${operation}`, (not.get(`${finding.kind}: ${operation}`) ?? 0) + 1);
        if ((after[0]?.rank ?? 0) > 1.05 * before[0].rank) graver++;
      }
    }
  }
  line(`fixes tried on ${DEFECTS} findings`, tried, '');
  line('refused, with a sentence', refused, '');
  line('of the others the finding is gone', (100 * gone) / (tried - refused), '%');
  line('something graver comes', graver, '', { most: 0 });
  process.stdout.write(`  not gone: ${[...not].map(([what, n]) => `${what} ${n}`).join(', ') || 'none'}\n`);
}
