import SkipForward from 'carbon-icons-svelte/lib/SkipForward.svelte';
import Tools from 'carbon-icons-svelte/lib/Tools.svelte';
import type { Command, Workshop } from './command.ts';
import { framePickedRound } from './views.ts';

const whyNot = ({ job }: Pick<Workshop, 'job'>): string | undefined =>
  (job.findings.shown?.length ?? 0) === 0 ? 'The check finds nothing.' : undefined;

/** What is done with findings at the bench Check, by its keys. */
export const findings: readonly Command[] = [
  {
    id: 'next-finding',
    name: 'Next finding',
    purpose: 'Pick and frame the next thing that the check found, the gravest first',
    rack: { bench: 7, letter: 'Z', icon: SkipForward },
    why: whyNot,
    run(workshop) {
      const { job } = workshop;
      const found = job.findings.next();
      if (!found) return job.tell('info', 'The check finds nothing here.');
      job.pickMany(found.where, 'instead');
      framePickedRound(workshop);
    }
  },
  {
    id: 'fix-finding',
    name: 'Fix it',
    purpose: 'Begin the first way to mend the finding that is looked at',
    rack: { bench: 7, letter: 'X', icon: Tools },
    why: whyNot,
    run({ job }) {
      const found = job.findings.now ?? job.findings.next();
      if (!found) return job.tell('info', 'The check finds nothing here.');
      const [fix] = found.fixes;
      if (!fix) return job.tell('info', 'There is no fix for this one: leave it, or mend it by hand.');
      job.mend(fix);
    }
  }
];
