<script lang="ts">
  import { ProgressBar } from 'carbon-components-svelte';
  import type { RunningTask } from '$lib/tasks/task-runner.svelte.ts';

  /** How far a task is. */
  let { task }: { task: RunningTask<unknown> } = $props();
</script>

<ProgressBar value={100 * task.fraction} labelText="{task.phase} ..." helperText="{task.seconds.toFixed(1)} s" />
