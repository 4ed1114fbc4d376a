import { counted, type Cage, type Measures, type Part, type PolygonMesh } from '@ulvrin/core';

/** Where a job stands at a bench, in one short line. */
export interface BenchState {
  line: string;
  /** `done`: nothing is left to do there; `open`: something asks for a look; `quiet`: neither */
  tone: 'done' | 'open' | 'quiet';
}

/** What the lines are made of. */
export interface JobFacts {
  parts: number;
  /** what quads are laid over */
  reference?: PolygonMesh;
  cage?: Cage;
  measures?: Measures;
  plan?: Part['plan'];
  /** findings of the check that show; nothing while it is not looked through */
  visible?: number;
  /** formats it was delivered as, the last one last */
  delivered: readonly string[];
}

const many = (n: number) => n.toLocaleString('en');
const quiet = (line: string): BenchState => ({ line, tone: 'quiet' });

function source({ reference, parts }: JobFacts): BenchState {
  if (!reference) return parts > 0 ? { line: counted(parts, 'part'), tone: 'done' } : quiet('nothing yet');
  const faces = reference.faceStart.length - 1;
  const isTriangles = reference.faceVertices.length === 3 * faces;
  return { line: `${faces < 10_000 ? many(faces) : `${many(Math.round(faces / 1000))} k`} ${isTriangles ? 'triangles' : 'faces'}`, tone: 'done' };
}

/** Creases, braces and the level plan, whichever there are. */
function brace({ cage, plan }: JobFacts): BenchState {
  const count = (name: string) => cage?.layers.get(name)?.data.filter((s) => s > 0).length ?? 0;
  const [sharp, braced] = [count('crease'), count('braced')];
  const said = [sharp > 0 && `${many(sharp)} creased`, braced > 0 && `${many(braced)} braced`, plan && 'plan'].filter(Boolean);
  return said.length > 0 ? { line: said.join(', '), tone: 'done' } : quiet('no creases');
}

/** What the check says where it was asked; else what is no quad. */
function checked(others: number, visible: number | undefined): BenchState {
  if (visible !== undefined)
    return visible === 0 ? { line: 'nothing shows', tone: 'done' } : { line: visible === 1 ? '1 shows' : `${many(visible)} show`, tone: 'open' };
  return others === 0 ? { line: 'all quads', tone: 'done' } : { line: `${many(others)} not quads`, tone: 'open' };
}

/** One line a bench, in their order. */
export function benchStates(facts: JobFacts): BenchState[] {
  const { measures, delivered } = facts;
  // of a cage that has no faces yet there is nothing to tell
  const m = measures?.faces ? measures : undefined;
  const none = quiet(measures ? 'no faces yet' : 'no cage yet');
  const others = m ? m.triangles + m.ngons : 0;
  return [
    source(facts),
    m ? { line: counted(m.quads, 'quad'), tone: others === 0 ? 'done' : 'quiet' } : quiet('no quads yet'),
    m ? quiet(m.ngons > 0 ? counted(m.ngons, 'n-gon') : 'no n-gons') : none,
    brace(facts),
    m ? (m.borders === 0 ? { line: 'closed', tone: 'done' } : quiet(`${counted(m.borders, 'border')} open`)) : none,
    m ? quiet(`spread ${m.spacing.toFixed(2)}`) : none,
    m ? checked(others, facts.visible) : none,
    delivered.length > 0 ? { line: `${delivered.at(-1)} saved`, tone: 'done' } : quiet('not yet')
  ];
}
