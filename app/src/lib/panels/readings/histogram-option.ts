import type { EChartsOption } from 'echarts';
import type { Histogram } from '@ulvrin/core';

/** Colour of the text of charts, by the theme. */
export const chartText = { light: '#52636b', night: '#a9b7bd' };

/** How a histogram is drawn, in the panels and in reports. @param text colour of its numbers */
export function histogramOption(bars: Histogram & { unit: string }, colour: string, text: string): EChartsOption {
  const digits = bars.width < 0.1 ? 3 : bars.width < 1 ? 2 : 0;
  const at = (i: number) => (bars.from + i * bars.width).toFixed(digits);
  return {
    animation: false,
    grid: { left: 34, right: 6, top: 6, bottom: 18 },
    tooltip: {
      trigger: 'axis',
      formatter: (p) => {
        const [{ dataIndex, value }] = p as unknown as { dataIndex: number; value: number }[];
        return `${at(dataIndex)} – ${at(dataIndex + 1)} ${bars.unit}: ${value}`;
      }
    },
    xAxis: {
      type: 'category',
      data: bars.counts.map((_, i) => at(i)),
      axisLabel: { color: text, fontSize: 10, interval: Math.ceil(bars.counts.length / 5) },
      axisTick: { show: false }
    },
    yAxis: { type: 'value', axisLabel: { color: text, fontSize: 10 }, splitNumber: 2, splitLine: { lineStyle: { opacity: 0.3 } } },
    series: [{ type: 'bar', data: bars.counts, itemStyle: { color: colour }, barCategoryGap: '10%' }]
  };
}
