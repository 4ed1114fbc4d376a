<script lang="ts">
  // drawn, not fetched
</script>

<!-- The mark: a cage of one face cut open, and the shape that it is a cage of. -->
<svg width="22" height="22" viewBox="0 0 22 22" fill="none" aria-hidden="true">
  <path d="M11 1.5 19.5 6.2v9.6L11 20.5 2.5 15.8V6.2Z" stroke="var(--sea)" stroke-width="1.5" stroke-linejoin="round" />
  <path d="M11 1.5v5.2M2.5 15.8l4-2.6M19.5 15.8l-4-2.6" stroke="var(--sea)" stroke-width="1.2" />
  <path d="M11 6.7c3.4 0 5 2.2 5 5s-1.8 4.8-5 4.8-5-2-5-4.8 1.6-5 5-5Z" fill="var(--sea)" fill-opacity=".18" stroke="var(--sea)" stroke-width="1.5" />
</svg>
