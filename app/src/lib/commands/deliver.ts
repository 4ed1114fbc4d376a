import ChartLine from 'carbon-icons-svelte/lib/ChartLine.svelte';
import Document from 'carbon-icons-svelte/lib/Document.svelte';
import Location from 'carbon-icons-svelte/lib/Location.svelte';
import Layers from 'carbon-icons-svelte/lib/Layers.svelte';
import Send from 'carbon-icons-svelte/lib/Send.svelte';
import { deliverySheet, formatNames } from '@ulvrin/core';
import { fileStem, saveText } from '$lib/platform/save-file.ts';
import type { Command, Workshop } from './command.ts';

const needsCage = ({ job }: Pick<Workshop, 'job'>): string | undefined => (job.active?.cage ? undefined : 'There is no cage to deliver.');

/** What is done at the bench Deliver, by its keys. */
export const delivering: readonly Command[] = [
  {
    id: 'deliver',
    name: 'Deliver',
    purpose: `Save the cage or the smooth surface (${formatNames}); export the job`,
    rack: { bench: 8, letter: 'Z', icon: Send },
    run: ({ show }) => show('deliver')
  },
  {
    id: 'destinations',
    name: 'Destinations',
    purpose: 'Describe places that you send to: what they do with creases, n-gons, borders and units; export and import them',
    rack: { bench: 8, letter: 'X', icon: Location },
    run: ({ show }) => show('destinations')
  },
  {
    id: 'density',
    name: 'Density',
    purpose: 'Compare how evenly vertices lie where somebody sculpts: creases, chamfers, support loops, divided first',
    rack: { bench: 8, letter: 'C', icon: ChartLine },
    why: needsCage,
    run: ({ show }) => show('density')
  },
  {
    id: 'batch',
    name: 'Batch',
    purpose: 'Do the same with many files on the server: quads, routines, levels of detail, another format, a report for each',
    rack: { bench: 8, letter: 'V', icon: Layers },
    run: ({ toBatches }) => toBatches()
  },
  {
    id: 'sheet',
    name: 'Delivery sheet',
    purpose: 'Save a page that tells what was sent where and when, with checksums, what was lost, and how far off it is',
    rack: { bench: 8, letter: 'B', icon: Document },
    why: ({ job }) => (job.view.deliveries.length > 0 ? undefined : 'Nothing was delivered yet.'),
    run({ job }) {
      const name = `${fileStem(job.name)}-deliveries.html`;
      saveText(deliverySheet(job.name, job.view.deliveries), name);
      job.tell('info', `The delivery sheet was saved as ${name}.`);
    }
  }
];
