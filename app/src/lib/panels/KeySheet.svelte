<script lang="ts">
  import { Modal, Toggle } from 'carbon-components-svelte';
  import { defaultBindings } from '$lib/commands/registry.ts';
  import { codeOf, pressed, readable, type KeySettings } from '$lib/settings/keys.ts';

  let { settings = $bindable(), onclose }: { settings: KeySettings; onclose: () => void } = $props();
  let listening: string | undefined = $state();
  let clash = $state('');

  function assign(event: KeyboardEvent) {
    if (!listening) return;
    event.preventDefault();
    event.stopPropagation();
    if (/^(Shift|Control|Alt|Meta)/.test(event.code)) return;
    const code = pressed(event);
    const other = defaultBindings.find((b) => b.id !== listening && codeOf(b, settings) === code);
    if (other) clash = `${readable(code)} is taken by "${other.label}": change that one first.`;
    else {
      settings = { ...settings, changed: { ...settings.changed, [listening]: code } };
      clash = '';
    }
    listening = undefined;
  }
</script>

<svelte:window onkeydowncapture={assign} />

<Modal open passiveModal modalHeading="Keys" size="sm" on:close={onclose}>
  <Toggle
    size="sm"
    labelText="Single-letter keys"
    toggled={settings.letters}
    on:toggle={(e) => (settings = { ...settings, letters: e.detail.toggled })}
  />
  {#if clash}<p class="clash" role="alert">{clash}</p>{/if}
  <table>
    <tbody>
      {#each defaultBindings as binding (binding.id)}
        <tr>
          <td>{binding.label}</td>
          <td
            ><button class="plain number" onclick={() => (listening = binding.id)}
              >{listening === binding.id ? 'press a key ...' : readable(codeOf(binding, settings))}</button
            ></td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <button class="plain" onclick={() => (settings = { ...settings, changed: {} })}>Reset all</button>
  <p class="quiet">
    Click picks, Shift-click adds, double-click an edge: its loop, triple-click: the island, drag: a box. Right-drag orbits, middle-drag pans, the
    wheel zooms; right click: a short list.
  </p>
</Modal>

<style>
  table {
    width: 100%;
    margin: 8px 0;
  }
  td:last-child {
    text-align: right;
  }
  .clash {
    color: var(--brick);
  }
</style>
