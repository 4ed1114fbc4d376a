<script lang="ts">
  import type { FieldProps } from './field.ts';

  /** Another part of the job; the first one where none has been chosen. */
  let { field, value, job, onchange }: FieldProps = $props();
  const others = $derived(job.parts.filter((p) => p.cage && p.id !== job.active?.id));
</script>

<label class="field">
  <span>{field.label}</span>
  <select aria-label={field.label} value={String(value || others[0]?.id || '')} onchange={(e) => onchange(e.currentTarget.value)}>
    {#each others as part (part.id)}<option value={part.id}>{part.name}</option>{/each}
  </select>
</label>
