<script lang="ts">
  import { Button, Modal, RadioButton, RadioButtonGroup, Toggle } from 'carbon-components-svelte';
  import type { KeySettings } from '$lib/settings/keys.ts';
  import { preferences } from '$lib/settings/preferences.svelte.ts';
  import { theme } from '$lib/settings/theme.svelte.ts';

  /** What a person prefers on this machine. */
  let { keys = $bindable(), onkeys, onclose }: { keys: KeySettings; onkeys: () => void; onclose: () => void } = $props();
</script>

<Modal open passiveModal modalHeading="Settings" size="sm" on:close={onclose}>
  <div class="groups">
    <RadioButtonGroup
      legendText="A right-drag orbits round"
      selected={preferences.now.orbitsPointer ? 'pointer' : 'middle'}
      on:change={({ detail }) => preferences.change({ orbitsPointer: detail === 'pointer' })}
    >
      <RadioButton value="middle" labelText="the middle of the view" />
      <RadioButton value="pointer" labelText="what is under the pointer" />
    </RadioButtonGroup>
    <RadioButtonGroup legendText="Theme" selected={theme.night ? 'night' : 'light'} on:change={({ detail }) => theme.set(detail === 'night')}>
      <RadioButton value="light" labelText="Light" />
      <RadioButton value="night" labelText="Night" />
    </RadioButtonGroup>
    <Toggle
      size="sm"
      labelText="Single-letter keys"
      toggled={keys.letters}
      on:toggle={({ detail }) => detail.toggled !== keys.letters && (keys = { ...keys, letters: detail.toggled })}
    />
    <Button size="small" kind="tertiary" on:click={onkeys}>Change keys</Button>
  </div>
</Modal>

<style>
  .groups {
    display: grid;
    gap: 16px;
    justify-items: start;
  }
</style>
