<script lang="ts">
  import { TextInput } from 'carbon-components-svelte';
  import type { FieldProps } from './field.ts';

  let { field, value, onchange }: FieldProps = $props();
</script>

<TextInput size="sm" inline labelText={field.label} value={String(value ?? '')} on:change={({ detail }) => onchange(String(detail ?? ''))} />

<style>
  /* as the labels of the other fields are */
  :global(.fields .bx--label--inline) {
    font-size: 14px;
    color: var(--ink);
  }
</style>
