<script lang="ts">
  import { Button, InlineNotification } from 'carbon-components-svelte';
  import { exportJob, exportStored } from '$lib/document/export-job.svelte.ts';
  import { countsFor, reportOf } from '$lib/document/report.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  /** What is shown where part of the page, or all of it, has failed: what can be done, and a report to copy. */
  let {
    what,
    error,
    job = undefined,
    id = undefined,
    again
  }: { what: string; error: unknown; job?: OpenJob; id?: string; again?: () => void } = $props();

  const report = $derived(reportOf(error, countsFor(job), navigator.userAgent));
  let said = $state('');

  async function save() {
    try {
      if (job) exportJob(job);
      else if (!(await exportStored(id!))) said = 'There is no such job in this browser.';
    } catch (reason) {
      said = `The job could not be exported: ${reason instanceof Error ? reason.message : String(reason)}`;
    }
  }

  async function copy() {
    try {
      await navigator.clipboard.writeText(report);
      said = 'Copied.';
    } catch {
      said = 'The browser does not let it be copied: select the text below.';
    }
  }
</script>

<div class="failure" role="group" aria-label={what}>
  <InlineNotification
    kind="error"
    lowContrast
    hideCloseButton
    title={what}
    subtitle="{error instanceof Error ? error.message : String(error)} What was shown as saved is in the browser's storage."
  />
  <div class="row">
    {#if again}<Button size="small" on:click={again}>Show it again</Button>{/if}
    {#if job || id}<Button size="small" kind="tertiary" on:click={save}>Export the job</Button>{/if}
    <Button size="small" kind="tertiary" on:click={copy}>Copy the report</Button>
  </div>
  {#if said}<p class="quiet" role="status">{said}</p>{/if}
  <details>
    <summary>The report: what failed, and counts; nothing you made</summary>
    <pre>{report}</pre>
  </details>
</div>

<style>
  .failure {
    /* over what else lies on the stand */
    position: relative;
    z-index: 4;
    background: var(--panel);
    padding: 16px;
    overflow: auto;
    max-height: 100%;
    user-select: text;
  }
  .row {
    display: flex;
    gap: 8px;
    flex-wrap: wrap;
    margin-bottom: 8px;
  }
  pre {
    font-size: 11px;
    white-space: pre-wrap;
    padding: 8px;
    border: 1px solid var(--line);
  }
</style>
