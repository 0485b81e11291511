/**
 * The charts of the plan: when things are opened, what that saved, and how long a choice takes in the menus there are.
 */
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
  type ChartOptions,
} from 'chart.js';
import { Bar, Scatter } from 'react-chartjs-2';
import { useTheme, type Theme } from '@mui/material/styles';
import { formatMinutes, formatSeconds } from '@rellin/core/units';
import type { PlanChartsView } from '@rellin/contract';
import { usePlanCharts } from '../api/queries';
import { monthDay } from '../parts/dates';
import { quarterWords } from '../parts/weekParts';
import { TEXT_FONT } from '../theme/theme';
import { tokens } from '../theme/tokens';
import { ChartSheet } from './ChartSheet';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
);

export default function PlanCharts() {
  const charts = usePlanCharts().data;
  if (!charts) return null;
  return (
    <div className="charts">
      <Openings weeks={charts.weeks} />
      <Saved weeks={charts.weeks} />
      <Crowding charts={charts} />
    </div>
  );
}

type Weeks = PlanChartsView['weeks'];
const sum = (numbers: readonly number[]) => numbers.reduce((all, one) => all + one, 0);
const weekName = ({ start }: Weeks[number]) => monthDay(new Date(start));
const QUARTERS = [0, 1, 2, 3];
const FONT = { family: TEXT_FONT, size: 11.5 };

/** What all charts share: still, in the colours of the house, with few lines. */
function usual({ palette }: Theme, unit: string) {
  const line = { color: palette.divider };
  const ticks = { color: palette.text.secondary, font: FONT, maxRotation: 0, autoSkip: true };
  return {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    scales: {
      x: { grid: { display: false }, border: line, ticks },
      y: {
        beginAtZero: true,
        grid: line,
        border: { display: false },
        ticks: { ...ticks, maxTicksLimit: 5, callback: (value: string | number) => `${value}${unit}` },
      },
    },
  } as const;
}

const legend = ({ palette }: Theme, style: 'rect' | undefined) => ({
  display: true,
  position: 'bottom' as const,
  labels: {
    color: palette.text.secondary,
    font: FONT,
    usePointStyle: true,
    pointStyle: style,
    boxWidth: style === 'rect' ? 9 : 18,
    boxHeight: 8,
    padding: 10,
    // a line is shown as it is drawn; the library leaves the dashes out
    generateLabels: (chart: Chart) =>
      Chart.defaults.plugins.legend.labels.generateLabels(chart).map((label) => ({
        ...label,
        lineDash: (chart.data.datasets[label.datasetIndex!] as { borderDash?: number[] }).borderDash ?? [],
      })),
  },
});

function Openings({ weeks }: { weeks: Weeks }) {
  const theme = useTheme();
  const t = tokens[theme.palette.mode];
  const colours = [t.slate, t.gorse, t.spruce, t.heather];
  const base = usual(theme, '');
  const all = sum(weeks.flatMap((week) => week.parts));
  const options: ChartOptions<'bar'> = {
    ...base,
    plugins: { legend: legend(theme, 'rect') },
    scales: { x: { ...base.scales.x, stacked: true }, y: { ...base.scales.y, stacked: true } },
  };
  return (
    <ChartSheet
      title="Openings by week"
      words={`${all.toLocaleString('en-GB')} in ${weeks.length} weeks, by part of the day.`}
      columns={['Week from', ...QUARTERS.map(quarterWords)]}
      rows={weeks.map((week) => [weekName(week), ...week.parts])}
      file="openings-by-week"
    >
      <Bar
        options={options}
        data={{
          labels: weeks.map(weekName),
          datasets: QUARTERS.map((part) => ({
            label: quarterWords(part),
            data: weeks.map((week) => week.parts[part]!),
            backgroundColor: colours[part],
            categoryPercentage: 0.85,
          })),
        }}
      />
    </ChartSheet>
  );
}

function Saved({ weeks }: { weeks: Weeks }) {
  const theme = useTheme();
  const minutes = weeks.map((week) => Math.round(week.saved / 6) / 10);
  return (
    <ChartSheet
      title="Time saved by week"
      words={`${formatMinutes(sum(weeks.map((week) => week.saved)))} in all, against going through the folders.`}
      columns={['Week from', 'Seconds saved']}
      rows={weeks.map((week) => [weekName(week), Math.round(week.saved)])}
      file="time-saved-by-week"
    >
      <Bar
        options={{ ...usual(theme, ' min'), plugins: { legend: { display: false } } }}
        data={{
          labels: weeks.map(weekName),
          datasets: [
            { label: 'minutes', data: minutes, backgroundColor: theme.palette.primary.main, categoryPercentage: 0.85 },
          ],
        }}
      />
    </ChartSheet>
  );
}

const COLLECTIONS = 'collections';

function Crowding({ charts: { menus, curve } }: { charts: PlanChartsView }) {
  const theme = useTheme();
  const t = tokens[theme.palette.mode];
  const base = usual(theme, ' s');
  const line = (label: string, data: { x: number; y: number }[], colour: string, dash: number[]) => ({
    label,
    data,
    showLine: true,
    pointRadius: 0,
    pointStyle: 'line' as const,
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: 1.5,
    borderDash: dash,
  });
  const longest = [...menus].sort((a, b) => b.length - a.length)[0];
  const options: ChartOptions<'scatter'> = {
    ...base,
    scales: { ...base.scales, x: { ...base.scales.x, beginAtZero: true } },
    plugins: {
      legend: legend(theme, undefined),
      tooltip: {
        callbacks: {
          label: ({ dataset, dataIndex, parsed }) =>
            `${dataset.label === COLLECTIONS ? menus[dataIndex]!.name : dataset.label}: ${parsed.x} entries, ${formatSeconds(parsed.y ?? 0)}`,
        },
      },
    },
  };
  return (
    <ChartSheet
      title="Crowding"
      words={
        longest
          ? `Seconds of a choice. Longest: ${longest.name}, ${longest.length}.`
          : 'Seconds of a choice by entries in a menu.'
      }
      columns={['Menu', 'Entries', 'Seconds of a choice']}
      rows={[
        ...menus.map((menu) => [menu.name, menu.length, Math.round(menu.seconds * 100) / 100]),
        ...curve.flatMap(({ length, unused, daily }) => [
          [`${length} entries, new to one`, length, Math.round(unused * 100) / 100],
          [`${length} entries, chosen daily`, length, Math.round(daily * 100) / 100],
        ]),
      ]}
      file="crowding"
    >
      <Scatter
        options={options}
        data={{
          datasets: [
            {
              label: COLLECTIONS,
              data: menus.map((menu) => ({ x: menu.length, y: menu.seconds })),
              backgroundColor: t.spruce,
              borderColor: t.spruce,
              pointRadius: 4,
            },
            line(
              'new to one',
              curve.map((c) => ({ x: c.length, y: c.unused })),
              t.second,
              [],
            ),
            line(
              'chosen daily',
              curve.map((c) => ({ x: c.length, y: c.daily })),
              t.heather,
              [4, 3],
            ),
          ],
        }}
      />
    </ChartSheet>
  );
}
