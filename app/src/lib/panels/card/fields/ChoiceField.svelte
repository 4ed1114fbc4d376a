<script lang="ts">
  import type { FieldProps } from './field.ts';

  let { field, value, onchange }: FieldProps = $props();
</script>

<label class="field">
  <span>{field.label}</span>
  <select aria-label={field.label} value={String(value)} onchange={(e) => onchange(e.currentTarget.value)}>
    {#each field.choices ?? [] as c (c.value)}<option value={c.value}>{c.label}</option>{/each}
  </select>
  <span class="unit quiet">{field.unit ?? ''}</span>
</label>
