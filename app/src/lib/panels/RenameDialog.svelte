<script lang="ts">
  import { Modal, TextInput } from 'carbon-components-svelte';

  /** Asks for another name of a job, or of something in one; open while there is one to change. */
  let {
    name,
    what = 'job',
    onclose,
    onrename
  }: { name: string | undefined; what?: string; onclose: () => void; onrename: (name: string) => void } = $props();
  let wished = $state('');
  $effect(() => {
    if (name !== undefined) wished = name;
  });
</script>

<Modal
  open={name !== undefined}
  modalHeading="Rename the {what}"
  primaryButtonText="Rename"
  secondaryButtonText="Cancel"
  size="xs"
  primaryButtonDisabled={wished.trim() === ''}
  on:click:button--secondary={onclose}
  on:close={onclose}
  on:submit={() => {
    if (wished.trim()) onrename(wished.trim());
    onclose();
  }}
>
  <TextInput labelText="Name" bind:value={wished} maxlength={200} />
</Modal>
