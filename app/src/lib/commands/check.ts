import Report from 'carbon-icons-svelte/lib/Report.svelte';
import SkipForward from 'carbon-icons-svelte/lib/SkipForward.svelte';
import Tools from 'carbon-icons-svelte/lib/Tools.svelte';
import { refusalOf } from '$lib/job/refusal-of.ts';
import { jobReport } from '$lib/job/report.ts';
import { saveText } from '$lib/platform/save-file.ts';
import type { Command, Workshop } from './command.ts';
import { framePickedRound } from './views.ts';

const whyNot = ({ job }: Pick<Workshop, 'job'>): string | undefined =>
  (job.findings.shown?.length ?? 0) === 0 ? 'The check finds nothing.' : undefined;

/** Saves a report; what keeps it from being made is told. */
async function saveReport({ job, stand }: Workshop): Promise<void> {
  try {
    const page = await jobReport(job, stand);
    saveText(page, `${job.name}.html`);
    job.tell('info', `The report was saved as ${job.name}.html.`);
  } catch (error) {
    job.tell('error', refusalOf(error).found);
  }
}

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
  },
  {
    id: 'report',
    name: 'Report',
    purpose: 'Save a page on the job that prints well: findings, figures, charts, and the stand as it is seen',
    rack: { bench: 7, letter: 'B', icon: Report },
    why: ({ job }) => (job.active?.cage ? undefined : 'There is no cage to report on.'),
    run: (workshop) => void saveReport(workshop)
  }
];
