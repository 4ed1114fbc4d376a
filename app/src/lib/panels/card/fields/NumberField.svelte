<script lang="ts">
  import type { FieldProps } from './field.ts';

  let { field, value, job, onchange }: FieldProps = $props();
  const refused = $derived(job.draft.refused[field.name]);
</script>

<label class="field">
  <span>{field.label}</span>
  {#if field.slider}<input
      class="slider"
      type="range"
      aria-label="{field.label}, dragged"
      value={Number(value)}
      step={field.step}
      min={field.min}
      max={field.max}
      oninput={(e) => onchange(e.currentTarget.value)}
    />{/if}
  <input
    class="number"
    type="number"
    aria-label={field.label}
    aria-invalid={refused !== undefined}
    value={refused?.typed ?? Number(Number(value).toFixed(4))}
    step={field.step ?? 'any'}
    min={field.min}
    max={field.max}
    onchange={(e) => onchange(e.currentTarget.value)}
  />
  <span class="unit quiet">{field.unit ?? ''}</span>
</label>

<style>
  input[aria-invalid='true'] {
    outline: 2px solid var(--brick);
  }
  input.slider {
    grid-column: 1 / 4;
    grid-row: 2;
    height: 16px;
    padding: 0;
    border: 0;
  }
</style>
