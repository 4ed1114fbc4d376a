import { Logbook, type NewEntry } from '../src/logbook/logbook.ts';
import { writeJobFile } from '../src/logbook/job-file.ts';
import { emptySelection, selectFaces } from '../src/select/selection.ts';
import { best, head, line, referenceLoop } from './measure.ts';

/** Entries of the job, and faces along a side of its box: about 20,000 quads. */
const [ENTRIES, ACROSS] = [300, 58];

const box: NewEntry = {
  operation: 'start-shape',
  part: 'a',
  params: { shape: 'box', width: 100, height: 100, depth: 100, across: ACROSS, up: ACROSS, deep: ACROSS },
  selection: emptySelection(),
  makes: { name: 'Block', kind: 'cage' }
};
const small = (i: number): NewEntry => ({
  operation: i % 3 === 0 ? 'inset' : i % 3 === 1 ? 'move' : 'crease',
  part: 'a',
  params: i % 3 === 0 ? { width: 0.2 } : i % 3 === 1 ? { x: 0.1 } : { sharpness: 2 },
  selection: selectFaces([(37 * i) % 20_000])
});

/** A job of many small entries: opened, gone back in, kept. */
export function recordBench(): void {
  head('The record');
  line('fixed loop of 1e8 additions, for comparison', best(3, referenceLoop), 'ms');
  const made = new Logbook([], 0, { name: 'Job', sets: [], hidden: [], locked: [], doneWhen: [] });
  made.add(box);
  for (let i = 1; i < ENTRIES; i++) made.add(small(i));
  const { entries } = made;
  const opened = () => new Logbook(entries, ENTRIES, made.settings, made.journal);
  line(
    `${ENTRIES} entries over ${made.part('a')!.cage!.faceCount.toLocaleString('en')} quads, opened by replay`,
    best(1, () => void opened().state),
    'ms',
    { most: 1500 }
  );
  const warm = opened();
  void warm.state;
  line(
    'entry 10 changed: the later ones done again',
    best(1, () => {
      warm.edit(9, { ...warm.entries[9].params, width: 0.3 });
      void warm.state;
    }),
    'ms',
    { most: 5000 }
  );
  const steps = 20;
  line(
    'undo and redo, each',
    best(2, () => {
      for (let i = 0; i < steps; i++) warm.undo();
      void warm.state;
      for (let i = 0; i < steps; i++) warm.redo();
      void warm.state;
    }) /
      (2 * steps),
    'ms',
    { most: 60 }
  );
  const bytes = writeJobFile({ ...made.settings, cursor: ENTRIES, entries }).length;
  line(`a job file of ${ENTRIES} small entries`, bytes / 2 ** 20, 'MB', { most: 3 });
}
