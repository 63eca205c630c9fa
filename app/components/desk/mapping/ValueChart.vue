<script setup lang="ts">
import { Chart, Legend, LinearScale, LineElement, PointElement, Tooltip, type ChartOptions } from 'chart.js'
import { Line } from 'vue-chartjs'
import type { ChartLine } from '~/lib/mapping/charts'

Chart.register(LineElement, PointElement, LinearScale, Tooltip, Legend)

const {
  lines,
  across,
  up,
  spoken,
  isWay = false,
} = defineProps<{
  lines: readonly ChartLine[]
  /** What stands under and beside the chart. */
  across: string
  up: string
  /** Is a way gone through drawn across, which has no figures? */
  isWay?: boolean
  /** What the chart says, for those who do not see it. */
  spoken: string
}>()
const preferences = usePreferencesStore()

/** Colours and type of the page: a canvas does not take them by itself. */
const look = computed(() => {
  void preferences.theme
  const style = getComputedStyle(document.documentElement)
  const colour = (name: string): string => style.getPropertyValue(`--${name}`).trim()
  return {
    ink: colour('ink'),
    soft: colour('soft'),
    line: colour('line'),
    accord: colour('accord'),
    font: style.getPropertyValue('--font-sans').trim() || 'sans-serif',
  }
})
const data = computed(() => ({
  datasets: lines.map(({ label, points, isStepped }, index) => ({
    label,
    data: [...points],
    borderColor: index === 0 ? look.value.ink : look.value.accord,
    borderWidth: index === 0 ? 1.8 : 1.4,
    borderDash: index === 0 ? [] : [4, 3],
    pointRadius: 0,
    pointHitRadius: 8,
    stepped: isStepped ? ('before' as const) : false,
  })),
}))
const options = computed<ChartOptions<'line'>>(() => {
  const { soft, line, font } = look.value
  const scale = (text: string) => ({
    type: 'linear' as const,
    title: { display: true, text, color: soft, font: { family: font, size: 11 }, padding: 2 },
    ticks: { color: soft, font: { family: font, size: 11 }, maxTicksLimit: 6 },
    grid: { color: line, lineWidth: 0.6 },
    border: { color: line },
  })
  return {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    parsing: false,
    scales: {
      x: { ...scale(across), bounds: 'data', ...(isWay ? { ticks: { display: false } } : {}) },
      y: scale(up),
    },
    plugins: {
      legend: {
        display: lines.length > 1,
        position: 'top',
        align: 'end',
        labels: { color: soft, font: { family: font, size: 11 }, boxWidth: 18, boxHeight: 1 },
      },
      tooltip: { displayColors: false, titleFont: { family: font }, bodyFont: { family: font } },
    },
  }
})
</script>

<template>
  <div class="h-40" data-testid="value-chart">
    <Line :key="preferences.theme" :data="data" :options="options" role="img" :aria-label="spoken" />
  </div>
</template>
