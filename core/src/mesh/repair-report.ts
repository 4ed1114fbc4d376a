/** What bringing polygons in changed; each count with the first few places as face or vertex numbers of the input. */
export interface RepairReport {
  weldedVertices: number;
  droppedFaces: { count: number; faces: number[] };
  duplicateFaces: { count: number; faces: number[] };
  zeroAreaFaces: { count: number; faces: number[] };
  splitEdges: { count: number; vertices: number[] };
  splitVertices: { count: number; vertices: number[] };
  turnedFaces: number;
  flippedShells: number;
  /** edges cut because the surface has one side only (a Moebius strip) */
  oneSidedCuts: number;
  looseVertices: number;
}

/** Places that a report names of each kind, at most. */
export const FEW = 5;

/** Counts a face, and names it while few are named. */
export function note(where: { count: number; faces: number[] }, f: number): void {
  where.count++;
  if (where.faces.length < FEW) where.faces.push(f);
}

/** The report as sentences a person reads; empty when nothing was found. */
export function describeRepair(report: RepairReport): string[] {
  const list = (ids: number[], count: number, one: 'face' | 'vertex') =>
    `${ids.length === 1 ? one : one === 'face' ? 'faces' : 'vertices'} ${ids.map((i) => i + 1).join(', ')}${count > ids.length ? ' and others' : ''}`;
  const many = (n: number, one: string, more = one + 's') => `${n.toLocaleString('en')} ${n === 1 ? one : more}`;
  const said: string[] = [];
  const r = report;
  if (r.weldedVertices) said.push(`Welded ${many(r.weldedVertices, 'vertex', 'vertices')} that lay on another one.`);
  if (r.droppedFaces.count)
    said.push(
      `Dropped ${many(r.droppedFaces.count, 'face')} with fewer than three different corners (${list(r.droppedFaces.faces, r.droppedFaces.count, 'face')}).`
    );
  if (r.duplicateFaces.count)
    said.push(
      `Dropped ${many(r.duplicateFaces.count, 'face')} that ${r.duplicateFaces.count === 1 ? 'was' : 'were'} there twice (${list(r.duplicateFaces.faces, r.duplicateFaces.count, 'face')}).`
    );
  if (r.zeroAreaFaces.count)
    said.push(
      `Kept ${many(r.zeroAreaFaces.count, 'face')} without area, since dropping them would open holes (${list(r.zeroAreaFaces.faces, r.zeroAreaFaces.count, 'face')}).`
    );
  if (r.splitEdges.count)
    said.push(
      `Split ${many(r.splitEdges.count, 'edge')} with more than two faces (at ${list(r.splitEdges.vertices, r.splitEdges.count, 'vertex')}).`
    );
  if (r.splitVertices.count)
    said.push(
      `Split ${many(r.splitVertices.count, 'vertex', 'vertices')} in which parts of the surface only touched (at ${list(r.splitVertices.vertices, r.splitVertices.count, 'vertex')}).`
    );
  if (r.oneSidedCuts) said.push(`Cut ${many(r.oneSidedCuts, 'edge')}, because the surface has only one side there (a Moebius strip).`);
  if (r.turnedFaces)
    said.push(`Turned ${many(r.turnedFaces, 'face')} that looked the other way than ${r.turnedFaces === 1 ? 'its' : 'their'} neighbours.`);
  if (r.flippedShells) said.push(`Flipped ${many(r.flippedShells, 'shell')} that ${r.flippedShells === 1 ? 'was' : 'were'} inside out.`);
  if (r.looseVertices > 0) said.push(`Left out ${many(r.looseVertices, 'vertex', 'vertices')} that no face uses.`);
  return said;
}
