import type { Bench } from '@ulvrin/core';
import type { Component } from 'svelte';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';

/** What a list is given. */
export interface ListProps {
  job: OpenJob;
  /** brings what is picked into view @param round with what lies round it */
  onframe: (round?: boolean) => void;
}

/** A list of things of the active cage, a tab of its bench: each can be picked, framed and worked on from there. */
export interface List {
  id: string;
  bench: Bench;
  name: string;
  help: string;
  /** shown as soon as its bench is opened */
  first?: true;
  component: Component<ListProps>;
}
