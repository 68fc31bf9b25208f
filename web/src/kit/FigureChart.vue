<script setup lang="ts">
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  type ChartData,
  type ChartOptions,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js';
import { computed, ref } from 'vue';
import { Chart as AnyChart } from 'vue-chartjs';
import { useTheme } from 'vuetify';
import { type Figures, saidOf, type Series } from './chart.ts';

/** Figures as bars and lines in the colours of the theme; the same as a table, for eyes and for ears. */
const props = defineProps<{ figures: Figures; height?: number }>();
Chart.register(
  ...[BarController, BarElement, LineController, LineElement, PointElement],
  ...[CategoryScale, LinearScale, Legend, Tooltip],
);
const theme = useTheme();
const asTable = ref(false);

const colour = (name: string): string => String(theme.current.value.colors[name] ?? '');

/** What is lost is hatched: told apart also without colour. */
function filling(tone: Series['tone']): CanvasPattern | string {
  if (tone !== 'oxide') return colour(tone);
  const tile = document.createElement('canvas');
  [tile.width, tile.height] = [6, 6];
  const pen = tile.getContext('2d');
  if (pen === null) return colour(tone);
  pen.strokeStyle = colour(tone);
  pen.lineWidth = 2;
  pen.beginPath();
  pen.moveTo(0, 6);
  pen.lineTo(6, 0);
  pen.stroke();
  return pen.createPattern(tile, 'repeat') ?? colour(tone);
}

const data = computed<ChartData>(() => ({
  labels: [...props.figures.labels],
  datasets: [
    ...props.figures.series.map((series) => ({
      type: series.as,
      label: series.title,
      data: [...series.values],
      ...(props.figures.stacked === true ? { stack: series.as === 'bar' ? 'bars' : series.title } : {}),
      yAxisID: series.right === true ? 'right' : 'left',
      backgroundColor:
        series.as === 'line'
          ? colour(series.tone)
          : series.soft === true
            ? `${colour(series.tone)}66`
            : filling(series.tone),
      borderColor: colour(series.tone),
      borderWidth: series.as === 'line' ? 1.5 : series.tone === 'oxide' ? 1 : 0,
      pointRadius: 2,
      spanGaps: true,
      order: series.as === 'line' ? 0 : 1,
    })),
    ...(props.figures.limit === undefined
      ? []
      : [
          {
            type: 'line' as const,
            label: props.figures.limit.title,
            data: props.figures.labels.map(() => props.figures.limit!.value),
            yAxisID: props.figures.limit.right === true ? 'right' : 'left',
            borderColor: colour('oxide'),
            borderDash: [4, 3],
            borderWidth: 1,
            pointRadius: 0,
            order: 0,
          },
        ]),
  ],
}));

const hasRight = computed(
  () => props.figures.series.some(({ right }) => right) || props.figures.limit?.right === true,
);
const options = computed<ChartOptions>(() => {
  const ticks = {
    color: colour('ink2'),
    font: { family: 'Spline Sans Mono Variable', size: 11 },
    maxRotation: 0,
  };
  const axis = {
    beginAtZero: true,
    border: { display: false },
    ticks: { ...ticks, maxTicksLimit: 5 },
  };
  return {
    responsive: true,
    maintainAspectRatio: false,
    animation: false,
    interaction: { mode: 'index', intersect: false },
    scales: {
      x: {
        stacked: props.figures.stacked === true,
        grid: { display: false },
        border: { color: colour('rule2') },
        ticks: { ...ticks, autoSkipPadding: 16 },
      },
      left: {
        ...axis,
        stacked: props.figures.stacked === true,
        ticks: { ...axis.ticks, precision: 0 },
        position: 'left',
        grid: { color: colour('rule') },
      },
      ...(hasRight.value ? { right: { ...axis, position: 'right', grid: { display: false } } } : {}),
    },
    plugins: {
      legend: {
        align: 'start',
        labels: {
          color: colour('ink2'),
          boxWidth: 12,
          boxHeight: 8,
          font: { family: 'Schibsted Grotesk Variable' },
        },
      },
      tooltip: {
        callbacks: {
          label: ({ dataset, datasetIndex, raw }) => {
            const series = props.figures.series[datasetIndex];
            return `${dataset.label ?? ''}: ${series === undefined ? String(raw) : saidOf(series, raw as number | null)}`;
          },
        },
      },
    },
  };
});
</script>

<template>
  <figure>
    <div v-if="!asTable" class="drawn" :style="{ height: `${height ?? 200}px` }">
      <AnyChart type="bar" :data="data" :options="options" role="img" :aria-label="figures.caption" />
    </div>
    <div v-else class="table" tabindex="0" role="region" :aria-label="figures.caption">
      <table>
        <caption class="second small">
          {{
            figures.caption
          }}
        </caption>
        <thead>
          <tr>
            <th scope="col">{{ figures.across }}</th>
            <th v-for="series in figures.series" :key="series.title" scope="col">{{ series.title }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(label, index) in figures.labels" :key="index">
            <th scope="row">{{ label }}</th>
            <td v-for="series in figures.series" :key="series.title" class="mono">
              {{ saidOf(series, series.values[index]) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <button type="button" class="link small" @click="asTable = !asTable">
      {{ asTable ? 'As a chart' : 'As a table' }}
    </button>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.drawn {
  position: relative;
}
.table {
  max-height: 260px;
  overflow: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
caption {
  text-align: left;
  padding-bottom: 6px;
}
th {
  text-align: left;
  font-weight: 600;
}
th,
td {
  padding: 3px 8px 3px 0;
  border-bottom: 1px solid var(--rule);
}
tbody th {
  font-weight: 400;
}
</style>
