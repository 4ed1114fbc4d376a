<script lang="ts">
  import Choice from '../../Choice.svelte';
  import type { FieldProps } from './field.ts';

  /** Another part of the job; the first one where none has been chosen. */
  let { field, value, job, onchange }: FieldProps = $props();
  const others = $derived(job.parts.filter((p) => p.cage && p.id !== job.active?.id).map((part) => ({ value: part.id, label: part.name })));
</script>

<Choice label={field.label} value={String(value || others[0]?.value || '')} choices={others} {onchange} />
