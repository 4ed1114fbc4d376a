<script lang="ts">
  import { kindHeading, lengthInWords, poleReasons, selectVertices, type Finding, type ReasonedPole } from '@ulvrin/core';
  import FindingHelp from '../FindingHelp.svelte';
  import type { ListProps } from './list.ts';

  let { job, onframe }: ListProps = $props();
  /** longer lists are no help: the gravest come first */
  const MOST_LISTED = 60;
  const findings = $derived(job.findings);
  const visible = $derived((findings.listed ?? []).filter((f) => f.visible));
  const harmless = $derived((findings.listed ?? []).filter((f) => !f.visible));
  /** shorter lists are read sooner than chosen from */
  const MANY = 8;
  let reason = $state('');
  /** kind of findings whose help is open */
  let explained: string | undefined = $state();
  /** the finding that is about to be left */
  let leaving: Finding | undefined = $state.raw();

  function look(finding: Finding, more: boolean) {
    findings.now = finding;
    job.pickMany(finding.where, more ? 'add' : 'instead');
    onframe(true);
  }
  /** why each pole is there is looked at when somebody asks */
  let asksPoles = $state(false);
  const poles = $derived.by((): ReasonedPole[] => {
    const part = asksPoles ? job.active : undefined;
    if (!part?.cage) return [];
    const all = poleReasons(part.cage, { scheme: part.scheme!, borderCorners: part.borderCorners! });
    return all.sort((a, b) => Number(a.reason !== 'free') - Number(b.reason !== 'free'));
  });
  const free = $derived(poles.filter(({ reason: asked }) => asked === 'free').length);

  function lookAtPole({ vertex }: ReasonedPole, more: boolean) {
    job.pickMany(selectVertices([vertex]), more ? 'add' : 'instead');
    onframe(true);
  }
  function leave(event: SubmitEvent) {
    event.preventDefault();
    if (leaving) findings.leave(leaving, reason.trim() || 'meant so');
    leaving = undefined;
    reason = '';
  }
  /** one that was gone to from the stand may lie farther down */
  const intoView = (item: HTMLElement) => item.scrollIntoView({ block: 'nearest' });
  const sizeOf = ({ size, unit }: Finding) =>
    unit === 'mm' ? lengthInWords(size) : unit === '' ? '' : `${size.toFixed(unit === '°' ? 0 : 1)}${unit}`;
</script>

{#snippet rows(list: Finding[])}
  {#each list.slice(0, MOST_LISTED) as finding, i (i)}
    <li class:now={finding === findings.now} {@attach finding === findings.now ? intoView : undefined}>
      <div class="line">
        <button class="plain" title="Pick and frame it (Shift adds)" onclick={(e) => look(finding, e.shiftKey)}>{finding.why}</button>
        <span class="number quiet">{sizeOf(finding)}</span>
      </div>
      {#if finding === findings.now}
        <div class="fixes">
          {#each finding.fixes as fix, k (k)}
            <button class="plain act" onclick={() => job.mend(fix)}>{fix.label}</button>
          {/each}
          {#if leaving === finding}
            <form novalidate onsubmit={leave}>
              <!-- svelte-ignore a11y_autofocus -->
              <input aria-label="Why it is left" placeholder="Why? (meant so)" bind:value={reason} autofocus />
              <button class="plain act">Leave it</button>
            </form>
          {:else}
            <button class="plain act quiet" onclick={() => (leaving = finding)}>Leave it</button>
            <button class="plain act quiet" onclick={() => (explained = finding.kind)}>What is this?</button>
          {/if}
        </div>
      {/if}
    </li>
  {/each}
  {#if list.length > MOST_LISTED}<li class="quiet">and {(list.length - MOST_LISTED).toLocaleString('en')} more</li>{/if}
{/snippet}

{#if findings.shown === undefined}
  <p class="quiet nothing">
    A large part: it is looked through when you ask. <button class="plain act" onclick={() => findings.look()}>Look it through</button>
  </p>
{:else}
  {#if visible.length > 0}
    <h4>
      {visible.length.toLocaleString('en')} that show
      {#if findings.only || (visible.length > MANY && findings.kinds.length > 1)}
        <select aria-label="Kind of findings" value={findings.only} onchange={(e) => (findings.wanted = e.currentTarget.value)}>
          <option value="">of all kinds</option>
          {#each findings.kinds as { kind, many } (kind)}<option value={kind}>{kindHeading(kind)}: {many.toLocaleString('en')}</option>{/each}
        </select>
      {/if}
    </h4>
    <ul class="things found" aria-label="Findings that show">{@render rows(visible)}</ul>
  {:else}
    <p class="nothing">Nothing that shows.</p>
  {/if}
  {#if harmless.length > 0}
    <details>
      <summary>{harmless.length.toLocaleString('en')} harmless</summary>
      <ul class="things found quiet" aria-label="Harmless findings">{@render rows(harmless)}</ul>
    </details>
  {/if}
  {#if findings.unlisted.length > 0}<p class="nothing quiet">Of each kind the gravest are listed: {findings.unlisted.join(', ')}.</p>{/if}
  <details bind:open={asksPoles}>
    <summary>Why every pole is there{asksPoles ? `: ${poles.length.toLocaleString('en')}, ${free.toLocaleString('en')} free` : ''}</summary>
    <ul class="things found" aria-label="Poles">
      {#each poles.slice(0, MOST_LISTED) as pole (pole.vertex)}
        <li>
          <div class="line">
            <button
              class="plain"
              class:quiet={pole.reason !== 'free'}
              title="Pick and frame it (Shift adds)"
              onclick={(e) => lookAtPole(pole, e.shiftKey)}>{pole.why}</button
            >
            {#if pole.reason === 'free'}
              <button
                class="plain act"
                onclick={() => job.mend({ label: 'Move it', operation: 'move-pole', params: {}, pick: selectVertices([pole.vertex]) })}>Move</button
              >
            {/if}
          </div>
        </li>
      {/each}
      {#if poles.length > MOST_LISTED}<li class="quiet">and {(poles.length - MOST_LISTED).toLocaleString('en')} more</li>{/if}
    </ul>
  </details>
  {#if findings.left.length > 0}
    <details>
      <summary>{findings.left.length.toLocaleString('en')} left as they are</summary>
      <ul class="things" aria-label="Findings left as they are">
        {#each findings.left as { finding, reason: why }, i (i)}
          <li>
            <span>{finding.why} <em>{why}</em></span>
            <button class="plain act" onclick={() => findings.takeUp(finding)}>Take up</button>
          </li>
        {/each}
      </ul>
    </details>
  {/if}
{/if}

{#if explained}<FindingHelp bind:kind={() => explained!, (kind) => (explained = kind)} onclose={() => (explained = undefined)} />{/if}

<style>
  h4,
  summary {
    padding: 6px 12px 2px;
    font-size: 12px;
    font-weight: 600;
  }
  h4 {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
  }
  select {
    min-width: 0;
    height: 24px;
    border: 1px solid var(--line);
    background: var(--panel);
    color: var(--ink);
    font: inherit;
    font-weight: 400;
  }
  summary {
    cursor: pointer;
  }
  .found li {
    display: block;
    padding: 2px 0;
    border-bottom: 1px solid var(--line);
  }
  .line {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    gap: 8px;
  }
  .line .number {
    white-space: nowrap;
  }
  .found .now {
    box-shadow:
      -8px 0 0 var(--panel),
      -11px 0 0 var(--cobalt);
  }
  .fixes {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 14px;
  }
  form {
    display: flex;
    gap: 8px;
  }
  input {
    width: 140px;
    height: 24px;
    padding: 0 6px;
    border: 1px solid var(--line);
    background: var(--panel);
    color: var(--ink);
    font: inherit;
  }
</style>
