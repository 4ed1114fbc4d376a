<script lang="ts">
  import NumberEntry from '../../NumberEntry.svelte';
  import type { FieldProps } from './field.ts';

  let { field, value, job, onchange }: FieldProps = $props();
  const refused = $derived(job.draft.refused[field.name]);
</script>

<NumberEntry
  label={field.label}
  value={refused?.typed ?? Number(value)}
  unit={field.unit ?? ''}
  min={field.min}
  max={field.max}
  step={field.step ?? (field.whole ? 1 : 0.1)}
  invalid={refused !== undefined}
  {onchange}
/>
{#if field.slider}<input
    type="range"
    aria-label="{field.label}, dragged"
    value={Number(value)}
    step={field.step}
    min={field.min}
    max={field.max}
    oninput={(e) => onchange(e.currentTarget.value)}
  />{/if}

<style>
  input {
    width: 100%;
    height: 24px;
    accent-color: var(--cobalt);
  }
</style>
