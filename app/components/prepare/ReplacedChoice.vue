<script setup lang="ts">
import type { Slide, SlideId } from '@core/model'
import type { ReplacedSlide } from '~/composables/useReplacement'
import { useTalk } from '~/stores/talk'

/** A slide of the new deck beside the one that it is: what differs, and whether it is that. */
const props = defineProps<{
  row: ReplacedSlide
  /** Slides that it can be said to be: those that no other is, and its own. */
  free: readonly Slide[]
}>()
defineEmits<{ say: [slide: SlideId | null] }>()
const talk = useTalk()
const talkId = computed(() => talk.talk?.id ?? '')
const was = computed(() => props.row.old?.steps.at(-1)?.picture)
const is = computed(() => props.row.brought.steps.at(-1)?.picture)
const drawnOn = computed(() =>
  (talk.film?.stretches ?? []).some(({ cues }) => cues.some((cue) => cue.kind === 'ink' && cue.stroke.slide === props.row.old?.id)),
)
const name = ({ title }: Slide): string => title || 'without a title'
const numbered = (slide: Slide): string => `${String(talk.slides.findIndex(({ id }) => id === slide.id) + 1)} ${name(slide)}`
</script>

<template>
  <aside aria-label="The chosen slide">
    <template v-if="was && is">
      <SlideDifference :talk-id="talkId" :was="was" :is="is" :shape="talk.talk?.shape ?? { width: 16, height: 9 }" />
      <p v-if="drawnOn && row.kind !== 'same'" class="say-ink">
        You drew on this slide while you recorded it: see in Review whether that still lies where it should.
      </p>
    </template>
    <template v-else>
      <SlidePicture v-if="is" :talk-id="talkId" :picture="is" :alt="name(row.brought)" large />
      <p class="soft">A new slide: nothing was recorded for it yet.</p>
    </template>
    <p v-if="row.kind === 'asked' && row.old" class="ask">
      Is this slide <b>{{ numbered(row.old) }}</b>?
      <button class="press small main" @click="$emit('say', row.old.id)">Yes, the same</button>
      <button class="press small" @click="$emit('say', null)">No, it is new</button>
    </p>
    <label v-else class="soft ask"
      >It is
      <el-select
        class="which"
        :model-value="row.old?.id ?? ''"
        size="small"
        aria-label="Which slide it is"
        @update:model-value="$emit('say', $event || null)"
      >
        <el-option value="" label="a new slide" />
        <el-option v-for="slide in free" :key="slide.id" :value="slide.id" :label="numbered(slide)" />
      </el-select>
    </label>
  </aside>
</template>

<style scoped>
aside {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  overflow-y: auto;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
}
.which {
  width: 260px;
}
.say-ink {
  padding-left: 10px;
  border-left: 3px solid var(--accent);
}
</style>
