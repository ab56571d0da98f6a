/** Draws the charts of the Data drawer on a canvas: bars of a column's spread, or two columns as dots. */
import {
	BarController,
	BarElement,
	CategoryScale,
	Chart,
	LinearScale,
	PointElement,
	ScatterController
} from 'chart.js';
import type { ChartConfiguration } from 'chart.js';
import type { Correlation, Statistics } from '$core/session/series';
import { written } from './written';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, PointElement, ScatterController);

export interface Charted {
	statistics: Statistics;
	correlation: Correlation | null;
	/** The columns, the first along the ground. */
	names: readonly [string, string];
}

/** Gives a canvas its chart, and takes it away with it. */
export const drawCharts = (charted: Charted) => (canvas: HTMLCanvasElement) => {
	const style = getComputedStyle(canvas);
	const token = (name: string) => style.getPropertyValue(name).trim();
	const chart = new Chart(canvas, configured(charted, token('--teal'), token('--quiet'), token('--line')));
	return () => chart.destroy();
};

function configured(
	{ statistics, correlation, names }: Charted,
	fill: string,
	ink: string,
	line: string
): ChartConfiguration {
	const { least, greatest, bars } = statistics;
	const axis = (text: string) => ({
		title: { display: true, text, color: ink, font: { size: 11 } },
		ticks: { color: ink, maxTicksLimit: 5, font: { size: 10 } },
		grid: { color: line }
	});
	const options = {
		animation: false as const,
		responsive: true,
		maintainAspectRatio: false,
		plugins: { legend: { display: false }, tooltip: { enabled: false } }
	};
	if (correlation)
		return {
			type: 'scatter',
			data: {
				datasets: [
					{
						data: Array.from({ length: correlation.places.length / 2 }, (_, i) => ({
							x: correlation.places[2 * i],
							y: correlation.places[2 * i + 1]
						})),
						pointRadius: 1.2,
						pointBackgroundColor: fill,
						pointBorderWidth: 0
					}
				]
			},
			options: { ...options, scales: { x: axis(names[0]), y: axis(names[1]) } }
		};
	const step = (greatest - least) / bars.length;
	return {
		type: 'bar',
		data: {
			labels: bars.map((_, i) => written(least + (i + 0.5) * step)),
			datasets: [{ data: [...bars], backgroundColor: fill, categoryPercentage: 1, barPercentage: 0.96 }]
		},
		options: { ...options, scales: { x: axis(names[0]), y: { ...axis('rows'), beginAtZero: true } } }
	};
}
