<script setup lang="ts">
import { CORNERS, PORTRAIT_SHAPES, type Portrait } from '#core/folio'

/** Shape, corner and size of the camera's picture. */
defineProps<{ disabled?: boolean }>()
const portrait = defineModel<Portrait>({ required: true })
const SHAPES = { circle: 'Circle', square: 'Square', wide: 'Wide' } as const
const PLACES = {
  'top-left': 'Top left',
  'top-right': 'Top right',
  'bottom-left': 'Bottom left',
  'bottom-right': 'Bottom right',
} as const
const shapes = PORTRAIT_SHAPES.map(value => ({ label: SHAPES[value], value }))
const corners = CORNERS.map(value => ({ label: PLACES[value], value }))
const sizes = [
  { label: 'Small', value: 0.2 },
  { label: 'Medium', value: 0.28 },
  { label: 'Large', value: 0.36 },
]
const part = <K extends keyof Portrait>(key: K) =>
  computed({
    get: () => portrait.value[key],
    set: (value: Portrait[K]) => {
      portrait.value = { ...portrait.value, [key]: value }
    },
  })
const shape = part('shape'),
  corner = part('corner'),
  size = part('size')
</script>

<template>
  <div class="grid grid-cols-[1fr_1.45fr_1.1fr] gap-2">
    <USelect
      v-model="shape"
      :items="shapes"
      :disabled="disabled"
      aria-label="Shape of your picture"
    />
    <USelect
      v-model="corner"
      :items="corners"
      :disabled="disabled"
      aria-label="Corner of your picture"
    />
    <USelect
      v-model="size"
      :items="sizes"
      :disabled="disabled"
      aria-label="Size of your picture"
    />
  </div>
</template>
