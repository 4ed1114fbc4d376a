<script lang="ts">
  import type { FieldProps } from './field.ts';

  let { field, value, onchange }: FieldProps = $props();
</script>

<label class="field">
  <span>{field.label}</span>
  <input type="text" aria-label={field.label} value={String(value ?? '')} onchange={(e) => onchange(e.currentTarget.value)} />
</label>
