<script lang="ts">
  import Choice from '../../Choice.svelte';
  import type { FieldProps } from './field.ts';

  let { field, value, onchange }: FieldProps = $props();
</script>

<Choice label={field.label} value={String(value)} choices={field.choices ?? []} {onchange} />
