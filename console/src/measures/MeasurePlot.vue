<script setup lang="ts">
import { BarChart, LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useTheme } from 'vuetify'
import { heightOf, plotOf, shown, valuesOf, type Plot } from './figures'
import type { MeasureSheet } from './queries'

/** A measure's lines as bars on top of each other; what is spread out, as its median in the band of its middle half. */
const props = defineProps<{ sheet: MeasureSheet }>()
const emit = defineEmits<{ pick: [line: string, column: string] }>()
use([BarChart, LineChart, GridComponent, LegendComponent, TooltipComponent, SVGRenderer])
const element = ref<HTMLElement | null>(null)
const theme = useTheme()
let chart: ECharts | undefined
const plot = computed(() => plotOf(props.sheet))
const height = computed(() => heightOf(props.sheet))
const colours = () => theme.current.value.colors as Record<string, string>

function axis(names: boolean) {
  const c = colours()
  return {
    type: names ? ('category' as const) : ('value' as const),
    ...(names
      ? {
          data: props.sheet.lines.map((l) =>
            ['month', 'week'].includes(props.sheet.by)
              ? l.label.replace(/^Week of /, '').replace(/ \d+$/, '')
              : l.label,
          ),
        }
      : { minInterval: 1 }),
    axisLine: { lineStyle: { color: c['line'] } },
    axisTick: { show: false },
    splitLine: { show: !names, lineStyle: { color: c['line'] } },
    axisLabel: {
      color: c['quiet'],
      fontSize: 11,
      ...(names && props.sheet.by !== 'week' && { interval: 0 }),
    },
  }
}
function stacked({ bars, flat }: Plot) {
  return {
    grid: { left: flat ? 150 : 40, right: 12, top: 34, bottom: 24 },
    xAxis: axis(!flat),
    yAxis: { ...axis(flat), inverse: flat },
    series: bars.map((b) => ({
      name: b.column,
      type: 'bar' as const,
      stack: 'all',
      barMaxWidth: flat ? 16 : 44,
      itemStyle: { color: colours()[b.colour], opacity: b.opacity ?? 1 },
      data: valuesOf(props.sheet, b.column),
    })),
  }
}
/** Meetings and days side by side, or hours alone. */
function spread() {
  const c = colours()
  const kinds = ['meetings', 'days', 'hours'].filter((k) =>
    props.sheet.columns.some((col) => col.name === `${k}, median`),
  )
  const low = (k: string) => valuesOf(props.sheet, `${k}, 25 %`)
  return {
    grid: kinds.map((_, i) => ({
      left: i ? '55%' : 40,
      right: i || kinds.length === 1 ? 12 : '53%',
      top: 34,
      bottom: 24,
    })),
    xAxis: kinds.map((_, i) => ({ ...axis(true), gridIndex: i })),
    yAxis: kinds.map((k, i) => ({
      ...axis(false),
      gridIndex: i,
      name: k,
      nameTextStyle: { color: c['quiet'] },
    })),
    series: kinds.flatMap((k, i) => {
      const at = { xAxisIndex: i, yAxisIndex: i }
      const high = valuesOf(props.sheet, `${k}, 75 %`)
      return [
        {
          ...at,
          name: 'up to a quarter',
          type: 'bar' as const,
          stack: k,
          silent: true,
          barMaxWidth: 44,
          itemStyle: { color: 'transparent' },
          tooltip: { show: false },
          data: low(k),
        },
        {
          ...at,
          name: 'the middle half',
          type: 'bar' as const,
          stack: k,
          barMaxWidth: 44,
          itemStyle: { color: c['secondary'], opacity: 0.35 },
          data: high.map((h, n) => (h === null ? null : h - (low(k)[n] ?? 0))),
        },
        {
          ...at,
          name: 'median',
          type: 'line' as const,
          symbolSize: 9,
          connectNulls: true,
          lineStyle: { color: c['logged'] },
          itemStyle: { color: c['logged'] },
          data: valuesOf(props.sheet, `${k}, median`),
        },
      ]
    }),
  }
}
/** What is read at the mouse: of what is spread out, its numbers as they are. */
function tip(points: unknown): string {
  const all = (Array.isArray(points) ? points : [points]) as {
    dataIndex: number
    seriesName: string
    marker: string
    value: unknown
    axisIndex?: number
  }[]
  const line = props.sheet.lines[all[0]?.dataIndex ?? -1]
  if (!line) return ''
  const columns = plot.value
    ? props.sheet.columns.filter((c) => all.some((p) => p.seriesName === c.name && p.value))
    : props.sheet.columns
  const escape = (text: string) => text.replace(/[&<>"]/g, (l) => `&#${l.charCodeAt(0)};`)
  return [
    `<b>${escape(line.label)}</b>`,
    ...columns.map(
      (c) => `${escape(c.name)}: ${shown(line.cells[props.sheet.columns.indexOf(c)]?.value, c)}`,
    ),
  ].join('<br>')
}
function draw() {
  const c = colours()
  const p = plot.value
  chart?.setOption(
    {
      animation: false,
      textStyle: { fontFamily: 'inherit' },
      legend: {
        top: 0,
        right: 12,
        itemWidth: 10,
        itemHeight: 10,
        icon: 'rect',
        textStyle: { color: c['quiet'], fontSize: 12 },
        data: p ? p.bars.map((b) => b.column) : ['the middle half', 'median'],
      },
      tooltip: {
        trigger: 'axis',
        axisPointer: { type: 'shadow' },
        backgroundColor: c['surface'],
        borderColor: c['line'],
        textStyle: { color: c['on-surface'], fontSize: 12 },
        formatter: tip,
      },
      ...(p ? stacked(p) : spread()),
    },
    true,
  )
  chart?.resize()
}
const resized = new ResizeObserver(() => chart?.resize())
onMounted(() => {
  if (!element.value) return
  chart = init(element.value, null, { renderer: 'svg' })
  chart.on('click', (at) => {
    const line = props.sheet.lines[at.dataIndex]
    if (line && at.seriesName)
      emit('pick', line.key, plot.value ? at.seriesName : props.sheet.columns[0]!.name)
  })
  resized.observe(element.value)
  draw()
})
watch([() => props.sheet, () => theme.current.value], draw, { flush: 'post' })
onBeforeUnmount(() => {
  resized.disconnect()
  chart?.dispose()
})

function save(at: string, name: string) {
  const link = document.createElement('a')
  link.href = at
  link.download = name
  link.click()
}
/** @param kind svg, or png at twice the size */
function saveAs(kind: 'svg' | 'png') {
  const name = `${props.sheet.measure.name}.${kind}`
  const drawn = chart?.getDataURL({ type: 'svg', backgroundColor: colours()['surface'] })
  if (!drawn || !element.value) return
  if (kind === 'svg') return save(drawn, name)
  const image = new Image()
  const { clientWidth: width, clientHeight: tall } = element.value
  image.onload = () => {
    const canvas = document.createElement('canvas')
    canvas.width = 2 * width
    canvas.height = 2 * tall
    canvas.getContext('2d')?.drawImage(image, 0, 0, 2 * width, 2 * tall)
    save(canvas.toDataURL('image/png'), name)
  }
  image.src = drawn
}
defineExpose({ saveAs })
</script>

<template>
  <div ref="element" aria-hidden="true" :style="{ height: `${height}px` }" />
</template>
