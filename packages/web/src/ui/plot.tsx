import {
  Chart,
  type ChartConfiguration,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
} from "chart.js";
import { useEffect, useRef } from "react";
import { useTheme } from "./theme.ts";

Chart.register(LineController, ScatterController, LineElement, PointElement, LinearScale, Tooltip, Legend);

export type Dot = { x: number; y: number };

/** One curve or cloud of a plot. `ink` names a colour of the theme. */
export interface Series {
  readonly label: string;
  readonly points: readonly Dot[];
  readonly ink: string;
  readonly dash?: readonly number[];
  /** Marks instead of a line. */
  readonly marks?: "circle" | "cross" | "rectRot" | "triangle";
  readonly size?: number;
  /** Left out of the legend. */
  readonly silent?: boolean;
  readonly width?: number;
}

interface PlotProps {
  readonly title: string;
  readonly series: readonly Series[];
  readonly x: string;
  readonly y: string;
  readonly xFrom?: number;
  readonly xTo?: number;
  readonly className?: string;
}

const ink = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** Curves and points over plain axes, in the colours of the theme. */
export function Plot({ title, series, x, y, xFrom, xTo, className = "h-56" }: PlotProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart>(null);
  const theme = useTheme();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the colours are read anew with the theme
  useEffect(() => {
    const made = configuration({ series, x, y, xFrom, xTo });
    if (!chart.current) chart.current = new Chart(canvas.current!, made);
    else {
      chart.current.data = made.data;
      chart.current.options = made.options!;
      chart.current.update("none");
    }
  }, [series, x, y, xFrom, xTo, theme]);
  useEffect(
    () => () => {
      chart.current?.destroy();
      chart.current = null;
    },
    [],
  );
  return (
    <div className={`relative ${className}`}>
      <canvas ref={canvas} role="img" aria-label={title} />
    </div>
  );
}

function configuration({ series, x, y, xFrom, xTo }: Omit<PlotProps, "title">): ChartConfiguration {
  const quiet = ink("quiet");
  const grid = { color: ink("hairline") };
  const font = { family: "IBM Plex Mono", size: 11 };
  const axis = (text: string) => ({
    type: "linear" as const,
    title: { display: true, text, color: quiet, font: { family: "Nunito Sans Variable", size: 12 } },
    grid,
    border: grid,
    ticks: { color: quiet, font, maxTicksLimit: 7 },
  });
  return {
    type: "line",
    data: {
      datasets: series.map((s) => ({
        label: s.label,
        data: [...s.points],
        borderColor: ink(s.ink),
        backgroundColor: ink(s.ink),
        borderDash: s.dash ? [...s.dash] : [],
        borderWidth: s.width ?? 1.75,
        showLine: s.marks === undefined,
        pointStyle: s.marks ?? "circle",
        pointRadius: s.marks ? (s.size ?? 4) : 0,
        pointHitRadius: 6,
        pointBorderWidth: 2,
      })),
    },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      interaction: { mode: "nearest", intersect: false },
      scales: { x: { ...axis(x), min: xFrom, max: xTo }, y: axis(y) },
      plugins: {
        legend: {
          position: "bottom",
          labels: {
            color: ink("ink"),
            usePointStyle: false,
            boxWidth: 22,
            boxHeight: 1,
            font: { family: "Nunito Sans Variable", size: 12 },
            filter: (item) => !series[item.datasetIndex ?? 0]?.silent,
          },
        },
        tooltip: { displayColors: false },
      },
    },
  };
}
