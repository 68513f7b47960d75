'use client';

import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { useChartColours } from '../chart-colours';

Chart.register(CategoryScale, LinearScale, BarController, BarElement, Tooltip);

export interface BarSeries {
  label: string;
  values: number[];
  /** Filled, or hollow with a line around. */
  isHollow?: boolean;
}

/** Bars by label, one series over another's place; the table beside them has the figures. */
export default function Bars({ labels, series, words }: { labels: string[]; series: BarSeries[]; words: string }) {
  const colours = useChartColours();
  if (!colours) return <div className="h-36" />;
  const font = { family: colours.font, size: 11 };
  return (
    <div className="h-36">
      <Bar
        role="img"
        aria-label={words}
        data={{
          labels,
          datasets: series.map(({ label, values, isHollow }) => ({
            label,
            data: values,
            backgroundColor: isHollow ? colours.sheet : colours.damson,
            borderColor: colours.damson,
            borderWidth: isHollow ? 1 : 0,
            barPercentage: 0.95,
            categoryPercentage: 0.9,
            grouped: false,
          })),
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
              callbacks: { label: ({ dataset, parsed }) => `${dataset.label}: ${Math.abs(parsed.y ?? 0)}` },
            },
          },
          scales: {
            x: {
              ticks: { color: colours.muted, font, maxRotation: 0, autoSkipPadding: 12 },
              grid: { display: false },
              border: { color: colours.rule },
            },
            y: {
              // what is lost hangs below the line
              ticks: {
                color: colours.muted,
                font,
                maxTicksLimit: 5,
                precision: 0,
                callback: (value) => Math.abs(Number(value)),
              },
              grid: { color: colours.rule },
              border: { display: false },
            },
          },
        }}
      />
    </div>
  );
}
