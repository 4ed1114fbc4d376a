import { describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { type Refusal } from '../operations/operation.ts';
import { OperationRefused } from '../operations/refusal.ts';
import { emptySelection, selectFaces } from '../select/selection.ts';
import { Logbook } from './logbook.ts';
import { perform, plainParts, takenUp } from './perform.ts';
import { replayAhead } from './replay-ahead.ts';

/** What arrives in another thread: a copy without classes. */
const sent = <T>(data: T): T => structuredClone(data);

function begun(): Logbook {
  const logbook = new Logbook();
  for (const part of ['p', 'q'])
    logbook.add({ operation: 'start-shape', part, params: { shape: 'box' }, selection: emptySelection(), makes: { name: part, kind: 'cage' } });
  logbook.add({ operation: 'crease', part: 'p', params: { sharpness: 2 }, selection: { ...emptySelection(), edges: [3] } });
  return logbook;
}
const entry = { operation: 'extrude', part: 'p', params: { distance: 3 }, selection: selectFaces([0]) };

describe('an entry done in another thread', () => {
  it('comes to the same as here, values and ids included; parts that it leaves alone stay the very same', () => {
    const [here, there] = [begun(), begun()];
    const { state } = there;
    const performed = sent(perform(sent(plainParts(state)), there.prepared(entry)));
    const result = takenUp(state, performed);
    expect(result.state.parts[1]).toBe(state.parts[1]);
    there.add(entry, undefined, result);
    here.add(entry);
    const [a, b] = [here, there].map((l) => l.part('p')!.cage!);
    expect(b.toPolygons()).toEqual(a.toPolygons());
    expect([there.selection, b.value('crease', 3), there.entries[3].notes]).toEqual([here.selection, 2, here.entries[3].notes]);
    assertValid(b);
    b.addVertex(0, 0, 0);
    expect(new Logbook(there.entries).part('p')!.cage!.toPolygons()).toEqual(a.toPolygons());
  });

  it('is refused as here, with the place', () => {
    const logbook = begun();
    const all = selectFaces(logbook.part('p')!.cage!.faces());
    const performed = sent(perform(sent(plainParts(logbook.state)), logbook.prepared({ ...entry, selection: all })));
    expect(() => takenUp(logbook.state, performed)).toThrow(OperationRefused);
    const { refusal } = performed as { refusal: Refusal };
    expect([refusal.found, refusal.where!.faces.length]).toEqual([expect.stringContaining('closed shell'), all.faces.length]);
  });

  it('is replayed ahead there where it takes long, and here where it does not', async () => {
    const logbook = begun();
    logbook.add(entry);
    // a fit takes long; without a reference it is flagged
    const fit = { ...logbook.entries[3], id: 9, operation: 'fit-reference', params: {}, selection: emptySelection() };
    const [told, sentAway]: [string[], string[]] = [[], []];
    const entries = [...logbook.entries, fit];
    const opened = new Logbook(entries);
    await replayAhead(opened, {
      tell: (title) => void told.push(title),
      elsewhere: async (parts, e) => (sentAway.push(e.operation), sent(perform(sent(parts), e)))
    });
    expect([told, sentAway]).toEqual([['Start shape', 'Start shape', 'Crease', 'Extrude', 'Fit to reference'], ['fit-reference']]);
    expect(opened.entries.map((e) => e.problem)).toEqual([undefined, undefined, undefined, undefined, expect.stringContaining('reference')]);
    expect(opened.part('p')!.cage!.toPolygons()).toEqual(new Logbook(entries).part('p')!.cage!.toPolygons());
  });
});
