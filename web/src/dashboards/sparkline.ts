import type { ChartConfiguration } from 'chart.js'

/** A course in small: its shape only, without axes; what is not known is bridged. */
export const sparkline = (
  values: readonly (number | null)[],
  colour: string,
): ChartConfiguration<'line'> => ({
  type: 'line',
  data: {
    labels: values.map((_, index) => index),
    datasets: [
      {
        data: [...values],
        borderColor: colour,
        borderWidth: 1.5,
        pointRadius: 0,
        spanGaps: true,
        tension: 0,
      },
    ],
  },
  options: {
    responsive: true,
    maintainAspectRatio: false,
    // It answers to nothing: the figure beside it leads to the items.
    events: [],
    layout: { padding: 3 },
    scales: { x: { display: false }, y: { display: false, bounds: 'data' } },
    plugins: { legend: { display: false }, tooltip: { enabled: false } },
  },
})
