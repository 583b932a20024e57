<script setup lang="ts">
/** A field for numbers and measures, with signs to tap beside it. */
const text = defineModel<string>({ required: true })
defineProps<{ label: string; placeholder?: string }>()
const emit = defineEmits<{ done: [] }>()
const root = ref<HTMLElement>()
const { insert, back, step } = useSigns(() => root.value?.querySelector('input'), text)
</script>

<template>
  <div
    ref="root"
    class="flex"
  >
    <UInput
      v-model="text"
      class="grow"
      size="lg"
      :placeholder="placeholder"
      :aria-label="label"
      autocomplete="off"
      @keydown.enter.exact.prevent="emit('done')"
    />
    <UPopover :content="{ side: 'top', align: 'end' }">
      <UButton
        color="neutral"
        variant="outline"
        class="h-11 w-11 justify-center bg-default"
        icon="i-lucide-calculator"
        aria-label="Signs to tap"
        title="Signs to tap"
      />
      <template #content>
        <SignPad
          class="w-[22.5rem]"
          @sign="insert"
          @back="back"
          @step="step"
        />
      </template>
    </UPopover>
  </div>
</template>
