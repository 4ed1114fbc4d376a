import { cornerAngles, edgeLengths, histogram, reportHtml, reportOn, type Cage, type Part, type ReportPictures } from '@ulvrin/core';
import { chartText, histogramOption } from '$lib/panels/readings/histogram-option.ts';
import { standColours } from '$lib/settings/theme.svelte.ts';
import type { Stand } from '$lib/stand/stand.ts';
import type { OpenJob } from './open-job.svelte.ts';

/** Pixels of the picture of the stand, and of a chart. */
const [WIDE, HIGH] = [1200, 750];
const [CHART_WIDE, CHART_HIGH] = [330, 120];

/** Charts of a cage's edges and corners, as SVG. */
async function chartsOf(cage: Cage): Promise<string[]> {
  const [{ init, use }, { BarChart }, { GridComponent }, { SVGRenderer }] = await Promise.all([
    import('echarts/core'),
    import('echarts/charts'),
    import('echarts/components'),
    import('echarts/renderers')
  ]);
  use([BarChart, GridComponent, SVGRenderer]);
  const corners = [...cage.faces()].flatMap((f) => cornerAngles(cage, f));
  const bars = [
    { title: 'Edge lengths, mm', unit: 'mm', ...histogram(edgeLengths(cage)) },
    { title: 'Corner angles, °', unit: '°', ...histogram(corners) }
  ];
  return bars.map(({ title, ...own }) => {
    const chart = init(null, undefined, { renderer: 'svg', ssr: true, width: CHART_WIDE, height: CHART_HIGH });
    const { tooltip: _shownOnScreen, ...option } = histogramOption(own, standColours.light.selected, chartText.light);
    chart.setOption(option);
    const drawn = chart.renderToSVGString();
    chart.dispose();
    return `<figure>${drawn}<figcaption>${title}</figcaption></figure>`;
  });
}

/** One page on all cages of a job that needs nothing else: findings, figures, charts, and the stand as it is seen. */
export async function jobReport(job: OpenJob, stand: Stand | undefined): Promise<string> {
  const cages = job.parts.filter((p): p is Part & { cage: Cage } => p.cage !== undefined && p.cage.faceCount > 0);
  const shown = new Map<string, ReportPictures>();
  for (const { id, name, cage } of cages) {
    const picture = id === job.active?.id ? await stand?.picture(WIDE, HIGH) : undefined;
    shown.set(name, { picture, charts: await chartsOf(cage) });
  }
  const reports = cages.map(({ name, cage, scheme, borderCorners, plan }) =>
    reportOn(name, { cage, settings: { scheme: scheme!, borderCorners: borderCorners!, plan }, reference: job.reference?.mesh })
  );
  return reportHtml(job.name, reports, shown);
}
