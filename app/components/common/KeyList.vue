<script setup lang="ts">
const keys = useKeys()
const names: Record<string, string> = { ArrowUp: 'up', ArrowDown: 'down', ArrowLeft: 'left', ArrowRight: 'right' }
const shown = (key: string) => key.split('+').map(k => names[k] ?? (k.length === 1 ? k.toUpperCase() : k))
</script>

<template>
  <UModal
    v-model:open="keys.listOpen"
    title="Keys that work here"
    description="They do not work while you type in a field."
    :ui="{ content: 'max-w-2xl' }"
  >
    <template #body>
      <div class="columns-2 gap-8">
        <section
          v-for="group in [...keys.groups].reverse()"
          :key="group.name"
          class="mb-4 break-inside-avoid"
        >
          <h3 class="mb-1 font-semibold">
            {{ group.name }}
          </h3>
          <dl>
            <div
              v-for="key in group.keys.filter(k => k.label)"
              :key="key.key + key.label"
              class="flex justify-between gap-4 border-b border-default py-1 text-sm"
            >
              <dt>{{ key.label }}</dt>
              <dd class="whitespace-nowrap">
                <kbd
                  v-for="part in shown(key.key)"
                  :key="part"
                  class="key ml-1"
                  >{{ part }}</kbd
                >
              </dd>
            </div>
          </dl>
        </section>
      </div>
    </template>
  </UModal>
</template>
