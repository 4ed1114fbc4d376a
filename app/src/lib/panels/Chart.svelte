<script lang="ts">
  import { GridComponent, TooltipComponent } from 'echarts/components';
  import * as echarts from 'echarts/core';
  import { CanvasRenderer } from 'echarts/renderers';
  import type { EChartsOption } from 'echarts';

  echarts.use([GridComponent, TooltipComponent, CanvasRenderer]);

  /** A chart that is as wide as there is room; kinds of charts that it shows are made known to the library by whoever shows it. */
  let { option, label, height }: { option: EChartsOption; label: string; /** pixels */ height: number } = $props();
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
  $effect(() => void chart?.setOption(option, true));
</script>

<div bind:this={host} class="chart" style:height="{height}px" role="img" aria-label={label}></div>

<style>
  .chart {
    width: 100%;
    margin-top: 4px;
  }
</style>
