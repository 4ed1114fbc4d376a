<script lang="ts">
  import { BarChart } from 'echarts/charts';
  import { use } from 'echarts/core';
  import type { Histogram } from '@ulvrin/core';
  import { standColours, theme } from '$lib/settings/theme.svelte.ts';
  import Chart from './Chart.svelte';
  import { chartText, histogramOption } from './readings/histogram-option.ts';

  use([BarChart]);

  let { bars }: { bars: Histogram & { unit: string } } = $props();
  const shade = $derived(theme.night ? 'night' : 'light');
  const option = $derived(histogramOption(bars, standColours[shade].selected, chartText[shade]));
</script>

<Chart {option} height={84} label="Histogram, {bars.counts.length} bins from {bars.from.toFixed(2)} {bars.unit}" />
