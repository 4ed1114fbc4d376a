<script lang="ts">
  import { BarChart } from 'echarts/charts';
  import { GridComponent, TooltipComponent } from 'echarts/components';
  import * as echarts from 'echarts/core';
  import { CanvasRenderer } from 'echarts/renderers';
  import type { Histogram } from '@ulvrin/core';
  import { histogramOption } from './readings/histogram-option.ts';
  import { standColours, theme } from '$lib/settings/theme.svelte.ts';

  echarts.use([BarChart, GridComponent, TooltipComponent, CanvasRenderer]);

  let { bars }: { bars: Histogram & { unit: string } } = $props();
  let host: HTMLDivElement;
  let chart: echarts.ECharts | undefined = $state.raw();

  $effect(() => {
    const made = echarts.init(host, undefined, { renderer: 'canvas' });
    const resize = new ResizeObserver(() => made.resize());
    resize.observe(host);
    chart = made;
    return () => {
      resize.disconnect();
      made.dispose();
    };
  });

  $effect(() => {
    const colours = theme.night ? standColours.night : standColours.light;
    chart?.setOption(histogramOption(bars, colours.selected, theme.night ? '#a9b7bd' : '#52636b'), true);
  });
</script>

<div bind:this={host} class="chart" role="img" aria-label="Histogram, {bars.counts.length} bins from {bars.from.toFixed(2)} {bars.unit}"></div>

<style>
  .chart {
    height: 84px;
    width: 100%;
    margin-top: 4px;
  }
</style>
