<script lang="ts">
  import { LineChart } from 'echarts/charts';
  import { LegendComponent } from 'echarts/components';
  import { use } from 'echarts/core';
  import type { EChartsOption } from 'echarts';
  import type { DensityRow } from '@ulvrin/core';
  import { standColours, theme } from '$lib/settings/theme.svelte.ts';
  import Chart from './Chart.svelte';
  import { chartText } from './readings/histogram-option.ts';

  use([LineChart, LegendComponent]);

  /** Edges by length, for each way that a part is sent. */
  let { rows }: { rows: readonly DensityRow[] } = $props();
  /** lines are told apart by their dashes, too */
  const DASHES = ['solid', 'dashed', 'dotted', [8, 3, 2, 3], [2, 4]] as const;
  const COLOURS = ['selected', 'border', 'crease', 'hover', 'pole'] as const;
  /** bars a mean */
  const A_MEAN = 10;

  const shade = $derived(theme.night ? 'night' : 'light');
  const option = $derived.by((): EChartsOption => {
    const text = { color: chartText[shade], fontSize: 10 };
    const colourOf = (i: number) => standColours[shade][COLOURS[i % COLOURS.length]];
    return {
      animation: false,
      grid: { left: 36, right: 8, top: 8, bottom: 64 },
      legend: { bottom: 0, textStyle: text, itemHeight: 8, type: 'plain' },
      tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => `${(100 * (v as number)).toFixed(1)} %` },
      xAxis: { type: 'category', data: rows[0]?.histogram.map((_, i) => (i / A_MEAN).toFixed(1)), axisLabel: { ...text, interval: 4 } },
      yAxis: { type: 'value', axisLabel: { ...text, formatter: (v: number) => `${Math.round(100 * v)} %` }, splitNumber: 2 },
      series: rows.map(({ way, histogram }, i) => ({
        name: way,
        type: 'line',
        step: 'end',
        symbol: 'none',
        data: histogram,
        lineStyle: { width: 1.5, type: DASHES[i % DASHES.length] as 'solid', color: colourOf(i) },
        itemStyle: { color: colourOf(i) }
      }))
    };
  });
</script>

<Chart {option} height={190} label="Edges by length for {rows.length} ways to send the part" />
