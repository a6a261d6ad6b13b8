<script setup lang="ts">
import { PRESETS, isPreset, presetOf, withPreset } from '@core/plan'
import type { Preset, Recipe } from '@core/model'
import type { PresetView } from '@contracts'
import { api, sentenceOf } from '~/client'
import { useTalk } from '~/stores/talk'

/** Recipes to begin with: those that everybody has, and a person's own. */
const recipe = defineModel<Recipe>({ required: true })
const talk = useTalk()
const own = ref<readonly PresetView[]>([])
const naming = ref<string | null>(null)
const dropping = ref<PresetView | null>(null)
const trouble = ref<string | null>(null)

const limit = computed(() => talk.talk?.limit ?? null)
const is = (preset: Preset): boolean => isPreset(recipe.value, preset, limit.value)
const unknown = computed(() => !talk.isGuests && ![...PRESETS, ...own.value].some(({ preset }) => is(preset)))

async function attempt(work: () => Promise<unknown>): Promise<void> {
  trouble.value = null
  try {
    await work()
    if (!talk.isGuests) own.value = await api.get<readonly PresetView[]>('/presets')
  } catch (error) {
    trouble.value = sentenceOf(error)
  }
}
const keep = (): Promise<void> =>
  attempt(async () => {
    const name = naming.value?.trim() ?? ''
    if (name !== '') await api.post('/presets', { name, preset: presetOf(recipe.value) })
    naming.value = null
  })
const drop = (preset: PresetView): Promise<void> =>
  attempt(async () => {
    dropping.value = null
    await api.delete(`/presets/${preset.id}`)
  })
onMounted(() => {
  void attempt(() => Promise.resolve())
})
</script>

<template>
  <div class="presets" role="group" aria-label="Recipes to begin with">
    <button
      v-for="{ name, preset } in PRESETS"
      :key="name"
      class="preset"
      :aria-pressed="is(preset)"
      @click="recipe = withPreset(recipe, preset, limit)"
    >
      {{ name }}
    </button>
    <span v-for="one in own" :key="one.id" class="own">
      <button class="preset" :aria-pressed="is(one.preset)" @click="recipe = withPreset(recipe, one.preset, limit)">
        {{ one.name }}</button><button class="drop" :aria-label="`Delete the recipe ${one.name}`" @click="dropping = one">×</button>
    </span>
    <form v-if="naming !== null" class="naming" @submit.prevent="keep">
      <el-input
        v-model="naming"
        maxlength="60"
        size="small"
        placeholder="for the sailing club"
        aria-label="Name of this recipe"
        autofocus
      />
      <button class="press small">Keep</button><button type="button" class="press quiet small" @click="naming = null">Leave it</button>
    </form>
    <button v-else-if="unknown" class="press quiet small" @click="naming = ''">Keep this recipe for other talks</button>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <el-dialog
      :model-value="dropping !== null"
      title="Delete this recipe?"
      width="420"
      append-to-body
      @update:model-value="dropping = null"
    >
      <p>“{{ dropping?.name }}” goes from the recipes to begin with. Files that were made by it stay.</p>
      <template #footer
        ><button class="press" @click="dropping = null">Keep it</button
        ><button class="press danger" @click="dropping && drop(dropping)">Delete “{{ dropping?.name }}”</button></template
      >
    </el-dialog>
  </div>
</template>

<style scoped>
.presets {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  width: 100%;
}
.preset {
  padding: 4px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: transparent;
  color: var(--ink);
  font: 500 15px var(--read);
  cursor: pointer;
}
.preset:hover {
  background: var(--brand-wash);
}
.preset[aria-pressed='true'] {
  border-color: var(--brand);
  background: var(--brand-wash);
  color: var(--brand);
}
.own {
  display: flex;
}
.own .preset {
  border-radius: 4px 0 0 4px;
}
.drop {
  min-width: 26px;
  border: 1px solid var(--line);
  border-left: 0;
  border-radius: 0 4px 4px 0;
  background: transparent;
  color: var(--soft);
  font-size: 16px;
  cursor: pointer;
}
.drop:hover {
  color: var(--alarm);
}
.naming {
  display: flex;
  gap: 6px;
}
</style>
