<script setup lang="ts">
import { BarChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useTheme } from 'vuetify'
import { dayMonth } from '../kernel/times'
import { wallOf } from '../kernel/wall'
import { VERDICTS, WORDS } from './figures'
import type { DayCounts } from './queries'

/** A stacked bar a day. A click tells which day and verdict. */
const props = defineProps<{ days: readonly DayCounts[] }>()
const emit = defineEmits<{ pick: [day: string, verdict: string] }>()
use([BarChart, GridComponent, TooltipComponent, SVGRenderer])
const COLOURS = { logged: 'logged', waiting: 'waiting', leftOut: 'left-out' } as const
const element = ref<HTMLElement | null>(null)
const theme = useTheme()
let chart: ECharts | undefined

function draw() {
  const colours = theme.current.value.colors
  chart?.setOption({
    animation: false,
    textStyle: { fontFamily: 'inherit' },
    grid: { left: 40, right: 4, top: 8, bottom: 22 },
    tooltip: {
      trigger: 'axis',
      axisPointer: { type: 'shadow' },
      backgroundColor: colours.surface,
      borderColor: colours.line,
      textStyle: { color: colours['on-surface'], fontSize: 12 },
    },
    xAxis: {
      type: 'category',
      data: props.days.map((d) => dayMonth(wallOf(d.day)!)),
      axisLine: { lineStyle: { color: colours.line } },
      axisTick: { show: false },
      axisLabel: { color: colours.quiet, fontSize: 11, interval: 4 },
    },
    yAxis: {
      type: 'value',
      minInterval: 1,
      splitLine: { lineStyle: { color: colours.line } },
      axisLabel: { color: colours.quiet, fontSize: 11 },
    },
    series: VERDICTS.map((verdict) => ({
      name: WORDS[verdict],
      type: 'bar',
      stack: 'day',
      barWidth: '62%',
      itemStyle: { color: colours[COLOURS[verdict]] },
      data: props.days.map((d) => d[verdict]),
    })),
  })
}
const resized = new ResizeObserver(() => chart?.resize())
onMounted(() => {
  if (!element.value) return
  chart = init(element.value, null, { renderer: 'svg' })
  chart.on('click', (at) => {
    const day = props.days[at.dataIndex]?.day
    const verdict = VERDICTS[at.seriesIndex ?? 0]
    if (day && verdict) emit('pick', day, verdict === 'leftOut' ? 'left-out' : verdict)
  })
  resized.observe(element.value)
  draw()
})
watch([() => props.days, () => theme.current.value], draw)
onBeforeUnmount(() => {
  resized.disconnect()
  chart?.dispose()
})
</script>

<template>
  <div ref="element" class="plot" aria-hidden="true" />
</template>

<style scoped>
.plot {
  height: 172px;
}
</style>
