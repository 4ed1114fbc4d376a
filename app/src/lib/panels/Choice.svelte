<script lang="ts">
  import { Select, SelectItem } from 'carbon-components-svelte';

  /** One of several, with its name before it. */
  let {
    label,
    value,
    choices,
    hidesLabel = false,
    title,
    onchange
  }: {
    label: string;
    value: string;
    choices: readonly { value: string; label: string }[];
    hidesLabel?: boolean;
    title?: string;
    onchange: (value: string) => void;
  } = $props();

  /** letters that there is room for beside a name; where a choice has more they take a line of their own */
  const BESIDE = 18;
  const isLong = $derived(choices.some((c) => c.label.length > BESIDE));
</script>

<div class="choice" class:bare={hidesLabel || isLong} {title}>
  <!-- made anew where the choices are others: it keeps the first ones it was given -->
  {#key choices.map((c) => c.value).join()}
    <Select
      size="sm"
      labelText={label}
      hideLabel={hidesLabel}
      selected={value}
      on:update={({ detail }) => detail !== value && onchange(String(detail))}
    >
      {#each choices as c (c.value)}<SelectItem value={c.value} text={c.label} />{/each}
    </Select>
  {/key}
</div>

<style>
  .choice {
    min-width: 0;
    font-size: 13px;
  }
  .choice :global(.bx--select) {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 160px;
    align-items: center;
    gap: 6px;
    width: 100%;
  }
  .bare :global(.bx--select) {
    grid-template-columns: minmax(0, 1fr);
    gap: 2px;
  }
  .choice :global(.bx--label) {
    margin: 0;
    font-size: 13px;
    color: inherit;
  }
  .choice :global(.bx--select-input__wrapper) {
    min-width: 0;
  }
  .choice :global(select) {
    min-width: 0;
    max-width: none;
    height: 28px;
    padding: 0 28px 0 8px;
    font-size: 13px;
  }
</style>
