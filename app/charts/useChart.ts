import type { EChartsCoreOption, EChartsType } from "echarts/core";
import { type RefObject, useEffect, useRef } from "react";

/** The page's own inks, as the charts' canvas needs them: plain colours of the light that is on now. */
export interface Inks {
  ink: string;
  mute: string;
  hair: string;
  sheet: string;
  lines: readonly [string, string, string, string];
}

/** Reads the inks off an element; `light-dark()` is resolved by asking for a colour that is in use. */
function inksOf(element: HTMLElement): Inks {
  const probe = document.createElement("span");
  element.append(probe);
  const colour = (name: string): string => {
    probe.style.color = `var(--${name})`;
    return getComputedStyle(probe).color;
  };
  const inks: Inks = {
    ink: colour("ink"),
    mute: colour("mute"),
    hair: colour("hair"),
    sheet: colour("sheet"),
    lines: [colour("ink"), colour("copper"), colour("petrol"), colour("plum")],
  };
  probe.remove();
  return inks;
}

/** A chart in a box, handed to `ready` once it is there: loads the charting chunk when first needed, keeps the size of its box, is disposed of with it. */
export function useChart(
  box: RefObject<HTMLElement | null>,
  draw: (inks: Inks) => EChartsCoreOption,
  when: readonly unknown[],
  ready?: (chart: EChartsType) => void,
): RefObject<((option: EChartsCoreOption) => void) | undefined> {
  const chart = useRef<EChartsType>(undefined);
  const set = useRef<(option: EChartsCoreOption) => void>(undefined);
  const latest = useRef(draw);
  latest.current = draw;
  const whenReady = useRef(ready);
  whenReady.current = ready;
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    let gone = false;
    let resize: ResizeObserver | undefined;
    const redraw = (): void => void chart.current?.setOption(latest.current(inksOf(element)));
    const light = window.matchMedia("(prefers-color-scheme: dark)");
    void import("./echarts").then(({ init }) => {
      if (gone) return;
      chart.current = init(element);
      whenReady.current?.(chart.current);
      set.current = (option) => void chart.current?.setOption(option);
      redraw();
      resize = new ResizeObserver(() => chart.current?.resize());
      resize.observe(element);
      light.addEventListener("change", redraw);
    });
    return () => {
      gone = true;
      resize?.disconnect();
      light.removeEventListener("change", redraw);
      chart.current?.dispose();
      chart.current = undefined;
      set.current = undefined;
    };
  }, [box]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the caller says when its picture changes
  useEffect(() => {
    if (chart.current && box.current) chart.current.setOption(latest.current(inksOf(box.current)));
  }, [...when]);
  return set;
}

/** Letters and grid that all charts share. */
export function chartFrame(inks: Inks): Pick<EChartsCoreOption, "animation" | "textStyle"> {
  return { animation: false, textStyle: { fontFamily: "Barlow Semi Condensed, sans-serif", fontSize: 14, color: inks.ink } };
}

/** Line, figures and grid of an axis, the same on every chart; what one chart alone has goes over it. */
export function chartAxis(inks: Inks): { axisLine: object; axisLabel: { color: string }; splitLine: object } {
  return { axisLine: { lineStyle: { color: inks.ink } }, axisLabel: { color: inks.mute }, splitLine: { lineStyle: { color: inks.hair } } };
}

/** The strip under a chart by which a stretch of it is picked, in the page's own inks. */
export function sliderLook(inks: Inks): object {
  return {
    borderColor: inks.hair,
    fillerColor: "transparent",
    backgroundColor: inks.sheet,
    dataBackground: { lineStyle: { color: inks.hair }, areaStyle: { opacity: 0 } },
    selectedDataBackground: { lineStyle: { color: inks.mute }, areaStyle: { opacity: 0 } },
    handleStyle: { color: inks.sheet, borderColor: inks.ink },
    moveHandleStyle: { color: inks.hair },
    emphasis: { handleStyle: { color: inks.ink, borderColor: inks.ink }, moveHandleStyle: { color: inks.mute } },
    textStyle: { color: inks.ink },
  };
}
