'use client'
import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { type ComposeOption, init, type ECharts, use } from 'echarts/core'
import type { LineSeriesOption, ScatterSeriesOption } from 'echarts/charts'
import type { GridComponentOption, TooltipComponentOption } from 'echarts/components'
import { LabelLayout } from 'echarts/features'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'

use([LineChart, ScatterChart, GridComponent, MarkLineComponent, TooltipComponent, LabelLayout, SVGRenderer])

export type ChartOption = ComposeOption<LineSeriesOption | ScatterSeriesOption | GridComponentOption | TooltipComponentOption>
/** The page's own inks, as a chart needs them: plain colours. */
export type Inks = Record<'ink' | 'ink-2' | 'ink-3' | 'rule' | 'sheet' | 'wash' | 'error' | 'warning', string>

function inksOf(element: HTMLElement): Inks {
  const probe = document.createElement('span')
  element.append(probe)
  const read = (name: string) => {
    probe.style.color = `var(--${name})`
    return getComputedStyle(probe).color
  }
  const inks = Object.fromEntries(
    (['ink', 'ink-2', 'ink-3', 'rule', 'sheet', 'wash', 'error', 'warning'] as const).map((n) => [n, read(n)]),
  ) as Inks
  probe.remove()
  return inks
}

/** A chart in the page's inks, by day and by night; it fills its box and is redrawn when the box or the page changes. */
export function Chart({
  option,
  label,
  className,
  onPick,
}: {
  option: (inks: Inks) => ChartOption
  label: string
  className: string
  onPick?: (index: number) => void
}) {
  const box = useRef<HTMLDivElement>(null)
  const chart = useRef<ECharts | null>(null)
  const latest = useRef({ option, onPick })
  useEffect(() => {
    latest.current = { option, onPick }
    if (chart.current && box.current) chart.current.setOption(latest.current.option(inksOf(box.current)), { notMerge: true })
  })
  useEffect(() => {
    const element = box.current!
    const made = init(element, null, { renderer: 'svg' })
    chart.current = made
    const draw = () => made.setOption(latest.current.option(inksOf(element)), { notMerge: true })
    draw()
    made.on('click', (e) => latest.current.onPick?.((e.data as { index?: number } | undefined)?.index ?? -1))
    // Told once where nothing changed, too: a resize lays the whole chart out again.
    const sized = new ResizeObserver(() => {
      if (made.getWidth() !== element.clientWidth || made.getHeight() !== element.clientHeight) made.resize()
    })
    sized.observe(element)
    const night = matchMedia('(prefers-color-scheme: dark)')
    night.addEventListener('change', draw)
    const theme = new MutationObserver(draw)
    theme.observe(document.documentElement, { attributeFilter: ['data-theme'] })
    return () => {
      sized.disconnect()
      theme.disconnect()
      night.removeEventListener('change', draw)
      made.dispose()
      chart.current = null
    }
  }, [])
  return <div ref={box} role="img" aria-label={label} className={className} />
}
