'use client';

import { Chart, LinearScale, LineElement, PointElement, Tooltip } from 'chart.js';
import { Line } from 'react-chartjs-2';
import type { CrawlSample } from '../../contracts/crawl';
import { fixed } from '../../core/formats/figures';
import { count } from '../../core/wording/format';
import { useChartColours } from '../chart-colours';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { paceOf } from './pace';

Chart.register(LinearScale, PointElement, LineElement, Tooltip);

type Point = ReturnType<typeof paceOf>[number];
const column = columnsFor<Point>();
const figure = (key: 'pages' | 'queued' | 'domains' | 'finds' | 'findsPer1000', header: string) =>
  column.accessor(key, { header, meta: { isNumber: true }, cell: ({ getValue }) => count(getValue()) });
const COLUMNS = [
  column.accessor('minutes', { header: 'After', cell: ({ getValue }) => label(getValue()) }),
  figure('pages', 'Pages'),
  figure('queued', 'In the queue'),
  figure('domains', 'Domains'),
  figure('finds', 'Finds'),
  figure('findsPer1000', 'Per 1,000'),
  column.accessor('pagesPerSecond', {
    header: 'Pages/s',
    meta: { isNumber: true },
    cell: ({ getValue }) => fixed(getValue(), 1),
  }),
];

/** Finds per 1,000 pages and pages per second over the time of a crawl, with a table of the same figures. */
export default function YieldChart({ samples }: { samples: CrawlSample[] }) {
  const colours = useChartColours();
  const points = paceOf(samples);
  if (points.length < 2) return <p className="small">The first figures come within seconds.</p>;
  const font = { family: colours?.font ?? 'sans-serif', size: 11 };
  return (
    <>
      <div className="h-44">
        {colours && (
          <Line
            role="img"
            aria-label="Finds per 1,000 pages and pages per second over time; the table below has the figures"
            data={{
              datasets: [
                {
                  label: 'finds per 1,000 pages',
                  data: points.map(({ minutes, findsPer1000 }) => ({ x: minutes, y: findsPer1000 })),
                  borderColor: colours.damson,
                  borderWidth: 2,
                  pointRadius: 0,
                  yAxisID: 'finds',
                },
                {
                  label: 'pages per second',
                  data: points.map(({ minutes, pagesPerSecond }) => ({ x: minutes, y: pagesPerSecond })),
                  borderColor: colours.muted,
                  borderDash: [3, 3],
                  borderWidth: 1.5,
                  pointRadius: 0,
                  yAxisID: 'pages',
                },
              ],
            }}
            options={{
              animation: false,
              responsive: true,
              maintainAspectRatio: false,
              interaction: { mode: 'index', intersect: false },
              plugins: {
                tooltip: {
                  bodyFont: font,
                  titleFont: font,
                  callbacks: { title: ([first]) => (first ? label(first.parsed.x ?? 0) : '') },
                },
              },
              scales: {
                // time as it went, however far samples stand apart
                x: {
                  type: 'linear',
                  min: 0,
                  max: points.at(-1)?.minutes,
                  ticks: {
                    color: colours.muted,
                    font,
                    maxTicksLimit: 8,
                    maxRotation: 0,
                    callback: (value) => label(Number(value)),
                  },
                  grid: { display: false },
                  border: { color: colours.rule },
                },
                finds: {
                  position: 'left',
                  min: 0,
                  ticks: { color: colours.damson, font, maxTicksLimit: 5 },
                  grid: { color: colours.rule },
                  border: { display: false },
                },
                pages: {
                  position: 'right',
                  min: 0,
                  ticks: { color: colours.muted, font, maxTicksLimit: 5 },
                  grid: { display: false },
                  border: { display: false },
                },
              },
            }}
          />
        )}
      </div>
      <p className="small flex gap-5">
        <span>
          <span className="font-semibold text-damson">solid, left:</span> finds per 1,000 pages of late
        </span>
        <span>dashed, right: pages per second</span>
      </p>
      <details className="small mt-1">
        <summary>As a table</summary>
        <Table
          label="The crawl over time"
          className="mt-1"
          columns={COLUMNS}
          rows={points.filter((_, i) => i % Math.ceil(points.length / 12) === 0 || i === points.length - 1)}
          rowId={({ minutes }) => String(minutes)}
        />
      </details>
    </>
  );
}

function label(minutes: number): string {
  return minutes < 2
    ? `${Math.round(minutes * 60)} s`
    : minutes < 120
      ? `${Math.round(minutes)} min`
      : `${fixed(minutes / 60, 1)} h`;
}
