<script lang="ts">
  import { BarChart } from 'echarts/charts';
  import { GridComponent, TooltipComponent } from 'echarts/components';
  import * as echarts from 'echarts/core';
  import { CanvasRenderer } from 'echarts/renderers';
  import type { Histogram } from '@ulvrin/core';
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
    const text = theme.night ? '#a9b7bd' : '#52636b';
    const digits = bars.width < 0.1 ? 3 : bars.width < 1 ? 2 : 0;
    const at = (i: number) => (bars.from + i * bars.width).toFixed(digits);
    chart?.setOption(
      {
        animation: false,
        grid: { left: 34, right: 6, top: 6, bottom: 18 },
        tooltip: {
          trigger: 'axis',
          formatter: (p: { dataIndex: number; value: number }[]) => `${at(p[0].dataIndex)} – ${at(p[0].dataIndex + 1)} ${bars.unit}: ${p[0].value}`
        },
        xAxis: {
          type: 'category',
          data: bars.counts.map((_, i) => at(i)),
          axisLabel: { color: text, fontSize: 10, interval: Math.ceil(bars.counts.length / 5) },
          axisTick: { show: false }
        },
        yAxis: { type: 'value', axisLabel: { color: text, fontSize: 10 }, splitNumber: 2, splitLine: { lineStyle: { opacity: 0.3 } } },
        series: [{ type: 'bar', data: bars.counts, itemStyle: { color: colours.selected }, barCategoryGap: '10%' }]
      },
      true
    );
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
