import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { useTheme } from '@mui/material/styles';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

/** Openings in each of the last twelve weeks; the numbers stand beside it for screen readers. */
export default function WeeklyChart({ weekly }: { weekly: number[] }) {
  const { palette } = useTheme();
  const label = `Openings a week, oldest first: ${weekly.join(', ')}`;
  return (
    <div className="weekly">
      <Bar
        aria-label={label}
        height={46}
        data={{
          labels: weekly.map((_, i) => (i === weekly.length - 1 ? 'this week' : `${weekly.length - 1 - i} weeks ago`)),
          datasets: [
            {
              data: weekly,
              backgroundColor: weekly.map((_, i) => palette.primary.main + (i === weekly.length - 1 ? '' : '38')),
              borderRadius: 3,
              minBarLength: 2,
              categoryPercentage: 0.9,
            },
          ],
        }}
        options={{
          animation: false,
          responsive: true,
          maintainAspectRatio: false,
          plugins: { legend: { display: false } },
          scales: { x: { display: false }, y: { display: false, beginAtZero: true } },
        }}
      />
    </div>
  );
}
