<script lang="ts">
  import { Checkbox } from 'carbon-components-svelte';
  import type { FieldProps } from './field.ts';

  let { field, value, onchange }: FieldProps = $props();
</script>

<Checkbox labelText={field.label} checked={Boolean(value)} on:check={(e) => e.detail !== Boolean(value) && onchange(e.detail)} />
