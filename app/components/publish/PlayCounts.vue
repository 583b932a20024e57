<script setup lang="ts">
import { max } from 'd3-array'
import { scaleLinear } from 'd3-scale'

/** By question: how many began, ended, and said that they have not got it yet; counted without names. */
const store = useFolio()
const site = useClassSite()
const rows = computed(() => {
  const counts = site.state?.counts ?? {}
  return store.questions
    .map(q => ({
      id: q.id,
      number: q.number,
      began: counts[q.id] ?? 0,
      ended: counts[`${q.id}:ended`] ?? 0,
      notYet: counts[`${q.id}:not-yet`] ?? 0,
    }))
    .filter(r => r.began + r.ended + r.notYet > 0)
})
/** Where the bars begin and end, px. */
const FROM = 40
const TO = 400
const x = computed(() =>
  scaleLinear()
    .domain([0, max(rows.value, r => Math.max(r.began, r.ended)) ?? 1])
    .range([0, TO - FROM])
    .nice(),
)
const ROW = 30
</script>

<template>
  <figure
    v-if="rows.length"
    class="mt-4"
    data-part="played"
  >
    <figcaption class="text-sm text-toned">
      Played, by question: the line is who began, the bar who saw the end, rings who said “not yet”.
    </figcaption>
    <svg
      :viewBox="`0 0 640 ${rows.length * ROW + 4}`"
      class="mt-1 w-full"
      aria-hidden="true"
    >
      <g
        v-for="(r, i) in rows"
        :key="r.id"
        :transform="`translate(0 ${i * ROW})`"
      >
        <text
          x="32"
          y="20"
          text-anchor="end"
          class="fill-current font-semibold"
        >
          {{ r.number }}
        </text>
        <rect
          :x="FROM"
          y="8"
          :width="x(r.ended)"
          height="14"
          fill="var(--frame)"
          opacity="0.8"
        />
        <path
          :d="`M${FROM} 15H${FROM + x(r.began)}M${FROM + x(r.began)} 6V24`"
          stroke="currentColor"
          fill="none"
        />
        <text
          :x="FROM + x(r.began) + 8"
          y="20"
          class="fill-current text-sm"
        >
          {{ r.ended }} of {{ r.began }}
        </text>
        <circle
          v-for="n in Math.min(r.notYet, 12)"
          :key="n"
          :cx="TO + 60 + 12 * n"
          cy="15"
          r="4"
          fill="none"
          stroke="var(--frame)"
          stroke-width="1.6"
        />
      </g>
    </svg>
    <table class="sr-only">
      <tr
        v-for="r in rows"
        :key="r.id"
      >
        <th>question {{ r.number }}</th>
        <td>{{ r.began }} began, {{ r.ended }} saw the end, {{ r.notYet }} said not yet</td>
      </tr>
    </table>
  </figure>
</template>
