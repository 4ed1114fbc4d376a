<script lang="ts">
  import { resolve } from '$app/paths';
  import { page } from '$app/state';
  import FailureNote from '$lib/panels/FailureNote.svelte';
</script>

<svelte:head><title>Ulvrin: something failed</title></svelte:head>
<FailureNote
  what={page.status === 404 ? 'There is no such page.' : 'The page has failed.'}
  error={new Error(page.error?.message ?? 'No reason is known.')}
  id={page.params.id}
  again={page.status === 404 ? undefined : () => location.reload()}
/>
<p class="home"><a href={resolve('/')}>To the jobs</a></p>

<style>
  .home {
    padding: 0 16px;
  }
</style>
