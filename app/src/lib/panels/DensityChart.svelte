<script lang="ts">
  import { LineChart } from 'echarts/charts';
  import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
  import * as echarts from 'echarts/core';
  import { CanvasRenderer } from 'echarts/renderers';
  import type { DensityRow } from '@ulvrin/core';
  import { theme } from '$lib/settings/theme.svelte.ts';

  echarts.use([LineChart, GridComponent, LegendComponent, TooltipComponent, CanvasRenderer]);

  let { rows }: { rows: readonly DensityRow[] } = $props();
  let host: HTMLDivElement;
  let chart: echarts.ECharts | undefined = $state.raw();
  /** told apart by their dashes, too */
  const DASHES = ['solid', 'dashed', 'dotted', [8, 3, 2, 3], [2, 4]] as const;
  const COLOURS = { light: ['#1d5bd6', '#8e2420', '#946413', '#0a7e70', '#5e3ba3'], night: ['#5c9dff', '#ff8b7a', '#e6b557', '#35d0bb', '#e4d6ff'] };
  /** bars a mean */
  const A_MEAN = 10;

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
    const text = theme.night ? '#a9b7bd' : '#52636b';
    const colours = COLOURS[theme.night ? 'night' : 'light'];
    chart?.setOption(
      {
        animation: false,
        grid: { left: 36, right: 8, top: 8, bottom: 64 },
        legend: { bottom: 0, textStyle: { color: text, fontSize: 10 }, itemHeight: 8, type: 'plain' },
        tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => `${(100 * (v as number)).toFixed(1)} %` },
        xAxis: {
          type: 'category',
          data: rows[0]?.histogram.map((_, i) => (i / A_MEAN).toFixed(1)),
          axisLabel: { color: text, fontSize: 10, interval: 4 }
        },
        yAxis: { type: 'value', axisLabel: { color: text, fontSize: 10, formatter: (v: number) => `${Math.round(100 * v)} %` }, splitNumber: 2 },
        series: rows.map(({ way, histogram }, i) => ({
          name: way,
          type: 'line',
          step: 'end',
          symbol: 'none',
          data: histogram,
          lineStyle: { width: 1.5, type: DASHES[i % DASHES.length] as 'solid', color: colours[i % colours.length] },
          itemStyle: { color: colours[i % colours.length] }
        }))
      },
      true
    );
  });
</script>

<div bind:this={host} class="chart" role="img" aria-label="Edges by length for {rows.length} ways to send the part"></div>

<style>
  .chart {
    height: 190px;
    width: 100%;
  }
</style>
