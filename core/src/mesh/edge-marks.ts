import { type Cage } from './cage.ts';

/** Marks that an edge keeps where faces are made anew round it. */
const MARKS = ['crease', 'kept'] as const;

/** What an edge is marked with; nothing where it is plain. */
export type EdgeMarks = readonly number[] | undefined;

/** The marks of an edge. */
export function edgeMarks(cage: Cage, e: number): EdgeMarks {
  const values = MARKS.map((name) => cage.value(name, e));
  return values.some((value) => value > 0) ? values : undefined;
}

/** Puts marks on an edge, in place of those it has. @param cage changed */
export function putEdgeMarks(cage: Cage, e: number, marks: EdgeMarks): void {
  MARKS.forEach((name, i) => cage.setValue(name, e, marks?.[i] ?? 0));
}
