<script lang="ts">
  import 'carbon-components-svelte/css/all.css';
  import '@fontsource/ibm-plex-sans/400.css';
  import '@fontsource/ibm-plex-sans/600.css';
  import '@fontsource/ibm-plex-mono/400.css';
  import '$lib/app.css';
  import { onMount } from 'svelte';
  import { theme } from '$lib/settings/theme.svelte.ts';

  let { children } = $props();
  onMount(() => theme.load());
</script>

{@render children()}
