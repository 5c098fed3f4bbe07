import {
  CategoryScale,
  Chart,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js'

Chart.register(
  CategoryScale,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Filler,
  Tooltip,
)
Chart.defaults.animation = false

/** The library of charts with the parts of it that we draw with. It is large, so it is loaded when the first chart is drawn. */
export { Chart }
