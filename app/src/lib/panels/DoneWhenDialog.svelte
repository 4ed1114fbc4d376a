<script lang="ts">
  import { Button, Modal } from 'carbon-components-svelte';
  import Close from 'carbon-icons-svelte/lib/Close.svelte';
  import { conditionFrom, conditionKinds, describeCondition, formats, type Condition } from '@ulvrin/core';
  import { untrack } from 'svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import Choice from './Choice.svelte';
  import NumberEntry from './NumberEntry.svelte';

  /** The checklist of a job: what it has to meet. */
  let { job, onclose }: { job: OpenJob; onclose: () => void } = $props();

  let list: readonly Condition[] = $state.raw(untrack(() => job.document.doneWhen));
  let is: Condition['is'] = $state('quads-only');
  const kind = $derived(conditionKinds.find((k) => k.is === is)!);
  let typed: Record<string, number | string> = $state({});
  const values = $derived(Object.fromEntries(kind.fields.map(({ name, initial }) => [name, typed[name] ?? initial])));
  let problem = $state('');
  const axes = ['X', 'Y', 'Z'].map((axis) => ({ value: axis, label: axis }));
  const files = [{ value: '', label: 'any file' }, ...formats.filter((f) => f.write).map(({ id, name }) => ({ value: id, label: name }))];

  function add() {
    const made = conditionFrom(is, values);
    problem = 'problem' in made ? made.problem : '';
    if ('problem' in made) return;
    if (list.some((c) => describeCondition(c) === describeCondition(made))) return void (problem = 'This is on the list already.');
    list = [...list, made];
  }
  function keep() {
    job.document.finishWhen(list);
    onclose();
  }
</script>

<Modal
  open
  modalHeading="Done when"
  primaryButtonText="Keep"
  secondaryButtonText="Cancel"
  size="sm"
  on:click:button--secondary={onclose}
  on:close={onclose}
  on:submit={keep}
>
  <ul aria-label="What the job has to meet">
    {#each list as condition, i (describeCondition(condition))}
      <li>
        <span>{describeCondition(condition)}</span>
        <button class="icon" aria-label="Remove: {describeCondition(condition)}" onclick={() => (list = list.filter((_, k) => k !== i))}
          ><Close /></button
        >
      </li>
    {:else}<li class="quiet">Nothing yet: add what has to be met, and the checklist ticks itself.</li>{/each}
  </ul>
  <div class="add">
    <Choice
      label="Add"
      value={is}
      choices={conditionKinds.map((k) => ({ value: k.is, label: k.name }))}
      onchange={(value) => {
        is = value as Condition['is'];
        typed = {};
        problem = '';
      }}
    />
    {#each kind.fields as { name, label, type, unit } (is + name)}
      {#if type === 'number'}
        <NumberEntry
          {label}
          {unit}
          value={values[name]}
          step={unit ? 0.01 : 1}
          min={0}
          onchange={(text) => (typed[name] = text === '' ? '' : Number(text))}
        />
      {:else}
        <Choice {label} value={String(values[name])} choices={type === 'axis' ? axes : files} onchange={(value) => (typed[name] = value)} />
      {/if}
    {/each}
    {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
    <Button size="small" kind="tertiary" on:click={add}>Add to the list</Button>
  </div>
</Modal>

<style>
  li {
    display: flex;
    align-items: center;
    justify-content: space-between;
    min-height: 30px;
    border-bottom: 1px solid var(--line);
  }
  .add {
    display: grid;
    gap: 8px;
    margin-top: 16px;
    justify-items: stretch;
  }
</style>
