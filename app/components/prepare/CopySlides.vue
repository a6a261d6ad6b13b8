<script setup lang="ts">
import type { SlideId } from '@core/model'
import type { TalkCard, TalkView } from '@contracts'
import { api } from '~/client'
import { useTalk } from '~/stores/talk'

/** Takes slides out of another talk, with their notes, times and pictures. */
const props = defineProps<{ at: number }>()
const emit = defineEmits<{ close: [] }>()
const talk = useTalk()
const others = ref<readonly TalkCard[]>([])
const from = ref('')
const source = shallowRef<TalkView | null>(null)
const picked = ref<SlideId[]>([])
const { busy, trouble, attempt } = useAttempt()

void attempt(async () => {
  others.value = (await api.get<readonly TalkCard[]>('/talks')).filter((card) => card.id !== talk.talk?.id)
})
watch(from, (id) =>
  attempt(async () => {
    picked.value = []
    source.value = await api.get<TalkView>(`/talks/${id}`)
  }),
)
const copy = (): Promise<void> =>
  attempt(async () => {
    const { slides } = await api.post<{ slides: readonly SlideId[] }>(`/talks/${talk.talk?.id ?? ''}/copies`, {
      from: from.value,
      slides: picked.value,
      at: props.at,
    })
    await talk.refresh()
    talk.noteInserted(slides)
    emit('close')
  })
</script>

<template>
  <el-dialog :model-value="true" title="Slides from another talk" width="760" append-to-body @close="emit('close')">
    <el-select v-model="from" placeholder="Which talk?" aria-label="Which talk" style="width: 100%">
      <el-option v-for="card in others" :key="card.id" :value="card.id" :label="`${card.name}, ${card.timelineBlocks.length} slides`" />
    </el-select>
    <p v-if="others.length === 0 && !busy" class="soft none">There is no other talk yet.</p>
    <el-checkbox-group v-if="source" v-model="picked" class="slides">
      <el-checkbox v-for="(slide, n) in source.slides" :key="slide.id" :value="slide.id" class="slide">
        <SlidePicture v-if="slide.steps[0]" class="picture" :talk-id="source.id" :picture="slide.steps[0].picture" alt="" />
        <span class="name">{{ n + 1 }} {{ slide.title }}</span>
      </el-checkbox>
    </el-checkbox-group>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <template #footer>
      <button class="press" @click="emit('close')">Not now</button>
      <button class="press main" :disabled="busy || picked.length === 0" @click="copy">
        {{ picked.length === 0 ? 'Copy slides' : `Copy ${picked.length} ${picked.length === 1 ? 'slide' : 'slides'}` }}
      </button>
    </template>
  </el-dialog>
</template>

<style scoped>
.none {
  padding-top: 12px;
}
.slides {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  max-height: 420px;
  overflow-y: auto;
  padding: 14px 2px;
}
.slide {
  height: auto;
  margin: 0;
  align-items: start;
}
.slide :deep(.el-checkbox__label) {
  display: grid;
  gap: 2px;
  min-width: 0;
  white-space: normal;
}
.picture {
  border: 1px solid var(--line);
}
.name {
  font-size: 13.5px;
  overflow-wrap: anywhere;
}
</style>
