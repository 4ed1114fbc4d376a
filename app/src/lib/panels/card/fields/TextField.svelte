<script lang="ts">
  import { TextInput } from 'carbon-components-svelte';
  import type { FieldProps } from './field.ts';

  let { field, value, onchange }: FieldProps = $props();
</script>

<TextInput size="sm" inline labelText={field.label} value={String(value ?? '')} on:change={({ detail }) => onchange(String(detail ?? ''))} />
