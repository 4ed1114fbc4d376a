<script lang="ts">
  import { TRASH_DAYS, type Tile } from '$lib/platform/storage/job-store.ts';

  /** Deleted jobs, and what jobs were before they were reset; nothing where there are none. */
  let { trash, onrestore, onempty }: { trash: Tile[]; onrestore: (job: Tile) => void; onempty: (ids: string[]) => void } = $props();

  const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
</script>

{#if trash.length > 0}
  <h2>Trash</h2>
  <p class="quiet">
    Kept for {TRASH_DAYS} days. <button class="plain danger" onclick={() => onempty(trash.map((t) => t.id))}>Empty the trash</button>
  </p>
  <ul aria-label="Trash">
    {#each trash as job (job.id)}
      <li>
        {#if job.picture}<img src={job.picture} alt="" />{/if}
        <div>
          <strong>{job.name}</strong><br />
          <span class="quiet">deleted {when(job.deleted!)}</span><br />
          <button class="plain" onclick={() => onrestore(job)}>Restore</button>
          <button class="plain danger" onclick={() => onempty([job.id])}>Delete for good</button>
        </div>
      </li>
    {/each}
  </ul>
{/if}

<style>
  h2 {
    margin: 28px 0 8px;
  }
  ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
    gap: 16px;
    margin-top: 8px;
  }
  li {
    display: flex;
    gap: 12px;
    padding: 8px;
    background: var(--panel);
    border: 1px solid var(--line);
    font-size: 13px;
  }
  img {
    width: 96px;
    height: 60px;
    object-fit: cover;
  }
  .danger {
    color: var(--brick);
  }
</style>
