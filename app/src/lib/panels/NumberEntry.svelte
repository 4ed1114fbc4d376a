<script lang="ts">
  import { NumberInput } from 'carbon-components-svelte';

  /** A number with its name before it and its unit behind, and buttons for a step up or down. */
  let {
    label,
    value,
    unit,
    min,
    max,
    step = 1,
    invalid = false,
    hidesLabel = false,
    title,
    onchange
  }: {
    label: string;
    /** text where what was typed was refused */
    value: number | string;
    unit?: string;
    min?: number;
    max?: number;
    step?: number;
    invalid?: boolean;
    hidesLabel?: boolean;
    title?: string;
    /** gets what was typed, nothing of it changed */
    onchange: (typed: string) => void;
  } = $props();

  // four digits behind the point are more than any field asks for
  const shown = $derived(typeof value === 'number' ? Number(value.toFixed(4)) : value === '' ? null : Number(value));
</script>

<div class="entry" class:bare={hidesLabel} {title}>
  <NumberInput
    size="sm"
    labelText={label}
    hideLabel={hidesLabel}
    allowEmpty
    value={shown}
    {min}
    {max}
    {step}
    {invalid}
    translateWithId={(id) => `${id === 'increment' ? 'More' : 'Less'}: ${label}`}
    on:change={(e) => onchange(e.detail === null ? '' : String(e.detail))}
  />{#if unit !== undefined}<span class="unit quiet">{unit}</span>{/if}
</div>

<style>
  .entry {
    display: flex;
    align-items: center;
    gap: 6px;
    font-size: 13px;
    min-width: 0;
  }
  .entry > :global(.bx--form-item) {
    flex: 1;
    min-width: 0;
  }
  .unit {
    flex: 0 0 38px;
    font-size: 12px;
  }
  .bare .unit {
    flex-basis: auto;
  }
  .entry :global(.bx--number) {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 116px;
    align-items: center;
    gap: 6px;
    width: 100%;
  }
  .bare :global(.bx--number) {
    grid-template-columns: minmax(0, 1fr);
  }
  .entry:not(.bare) {
    container-type: inline-size;
  }
  /* labels stand over their fields where a line has no room for both */
  @container (max-width: 215px) {
    .entry :global(.bx--number) {
      grid-template-columns: minmax(0, 1fr);
      gap: 2px;
    }
  }
  .entry :global(.bx--label) {
    margin: 0;
    font-size: 13px;
    line-height: 1.25;
    color: inherit;
  }
  .entry :global(.bx--number--sm.bx--number input[type='number']) {
    min-width: 0;
    height: 28px;
    padding: 0 50px 0 8px;
    font-size: 13px;
  }
  .entry :global(.bx--number__input-wrapper) {
    min-width: 0;
  }
  .entry :global(.bx--number__controls) {
    width: 48px;
  }
  .entry :global(.bx--number--sm .bx--number__control-btn) {
    width: 24px;
    height: 28px;
  }
  .entry :global(.bx--number__control-btn::before),
  .entry :global(.bx--number__control-btn::after) {
    display: none;
  }
  .entry :global(.bx--number__rule-divider) {
    display: none;
  }
  /* the outline and the message tell it; an icon would hide the digits */
  .entry :global(.bx--number__invalid) {
    display: none;
  }
</style>
