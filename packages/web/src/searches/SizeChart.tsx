import { CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement, Tooltip } from 'chart.js';
import { Line } from 'react-chartjs-2';
import { useTheme } from '@mui/material/styles';

Chart.register(LineController, LineElement, PointElement, CategoryScale, LinearScale, Tooltip);

/** How many a saved search found at the end of each day; said in words for screen readers. */
export default function SizeChart({ sizes }: { sizes: { day: string; count: number }[] }) {
  const { palette } = useTheme();
  return (
    <Line
      aria-label={`Found by day: ${sizes.map((s) => `${s.day} ${s.count}`).join(', ')}`}
      data={{
        labels: sizes.map((s) => s.day),
        datasets: [
          {
            data: sizes.map((s) => s.count),
            borderColor: palette.primary.main,
            backgroundColor: palette.primary.main,
            borderWidth: 2,
            pointRadius: sizes.length > 30 ? 0 : 2,
            tension: 0,
            stepped: 'after',
          },
        ],
      }}
      options={{
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        layout: { padding: 4 },
        plugins: { legend: { display: false } },
        scales: { x: { display: false }, y: { display: false, grace: '20%' } },
      }}
    />
  );
}
