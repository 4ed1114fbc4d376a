<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import { vertexColour, verticesOf } from '@ulvrin/core';
  import type { FieldProps } from './field.ts';

  let { field, value, job, onchange }: FieldProps = $props();
  /** the colour of the first vertex that is picked */
  const picked = $derived.by(() => {
    const cage = job.active?.cage;
    const first = cage && verticesOf(cage, job.selection)[0];
    return first === undefined ? undefined : vertexColour(cage!, first);
  });
</script>

<div class="colour">
  <label
    >{field.label}
    <input type="color" value={String(value)} oninput={(e) => onchange(e.currentTarget.value)} /></label
  >
  <Button size="small" kind="ghost" disabled={!picked} on:click={() => onchange(picked)}>Take it from the picks</Button>
</div>

<style>
  .colour,
  label {
    display: flex;
    align-items: center;
    gap: 8px;
    font-size: 12px;
  }
  .colour {
    justify-content: space-between;
    flex-wrap: wrap;
  }
  input {
    width: 40px;
    height: 24px;
    padding: 0;
    border: 1px solid var(--line);
    background: none;
  }
</style>
