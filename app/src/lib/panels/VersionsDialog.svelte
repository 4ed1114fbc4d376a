<script lang="ts">
  import { Button, Modal, TextInput } from 'carbon-components-svelte';
  import { goto } from '$app/navigation';
  import { resolve } from '$app/paths';
  import { fileOf, jobFromFile } from '$lib/document/export-job.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { problemOf } from '$lib/job/refusal-of.ts';
  import type { VersionRecord } from '$lib/platform/storage/database.ts';
  import { DAYS, forgetVersion, HOURS, keepVersion, openVersion, versionsOf } from '$lib/platform/storage/versions.ts';
  import { documentSettings, writeJobFile } from '@ulvrin/core';
  import { changedWhen } from './jobs/wall.ts';

  /** What the job was at earlier times, kept by hand and by itself. */
  let { job, onclose }: { job: OpenJob; onclose: () => void } = $props();

  let kept: readonly VersionRecord[] = $state.raw([]);
  let name = $state('');
  let problem = $state('');
  const load = async () => (kept = await versionsOf(job.record.id));
  void load();

  /** Does something; what keeps it from being done is told. */
  async function attempt(work: () => unknown) {
    problem = await problemOf(work);
    await load();
  }

  const keep = (event: Event) => {
    event.preventDefault();
    void attempt(async () => {
      await keepVersion(job.record.id, writeJobFile(fileOf(job)), { name: name.trim() || 'kept by hand', entries: job.entries.length });
      name = '';
    });
  };

  const restore = ({ id, name: own, at }: VersionRecord) =>
    attempt(async () => {
      const { entries, cursor, ...settings } = await openVersion(id);
      // the job's own name stays, and so do ways it took since then
      const { branches, branch } = job.document;
      const to = { ...documentSettings({ ...settings, name: job.name, branches, branch }), entries, cursor };
      if (job.rework((logbook) => logbook.restore(`Restore ${own ?? `the version of ${changedWhen(at)}`}`, to))) onclose();
    });

  const open = ({ id, name: own, at }: VersionRecord) =>
    attempt(async () => {
      const version = await openVersion(id);
      const made = await jobFromFile(version, { name: `${version.name}, ${own ?? at.slice(0, 16).replace('T', ' ')}` });
      onclose();
      await goto(resolve('/job/[id]', { id: made.id }));
    });
</script>

<Modal open passiveModal modalHeading="Versions of {job.name}" size="sm" on:close={onclose}>
  <form novalidate onsubmit={keep}>
    <TextInput labelText="Name of a version" size="sm" maxlength={60} placeholder="kept by hand" bind:value={name} />
    <Button size="small" type="submit">Keep this version</Button>
  </form>
  {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
  <ul aria-label="Versions">
    {#each kept as version (version.id)}
      <li>
        <span
          ><strong>{version.name ?? 'kept by itself'}</strong>
          <span class="quiet"
            >{changedWhen(version.at)}, {version.entries} {version.entries === 1 ? 'entry' : 'entries'}, {(version.bytes / 1024).toFixed(0)} kB</span
          ></span
        >
        <button class="plain act" title="The job becomes what it was then; one undo takes that back" onclick={() => restore(version)}>Restore</button>
        <button class="plain act" onclick={() => open(version)}>Open as a job</button>
        <button class="plain act" onclick={() => attempt(() => forgetVersion(version.id))}>Remove</button>
      </li>
    {:else}<li class="quiet">None yet. One is kept by itself every hour that something is done.</li>{/each}
  </ul>
  <p class="quiet kept">Named ones stay. Of the others all stay for {HOURS} hours, then one a day for {DAYS} days.</p>
</Modal>

<style>
  form {
    display: flex;
    align-items: end;
    gap: 8px;
    margin-bottom: 16px;
  }
  li {
    display: flex;
    gap: 10px;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  li > span {
    flex: 1;
  }
  .kept {
    margin-top: 8px;
  }
</style>
