<script setup lang="ts">
import { Delete, Hide, Rank, View } from '@element-plus/icons-vue'
import { countWords, plannedTime, proposedTime } from '@core/pace'
import type { Ms, Size, Slide } from '@core/model'
import type { SlideFields } from '@core/deck'
import { assetUrl } from '~/client'
import { duration, readDuration } from '~/words'

/** A slide as a row of a script: its picture on the left, what is said on the right, its times behind. */
const props = defineProps<{ slide: Slide, number: number, talkId: string, shape: Size, current: boolean, recorded: Ms }>()
const emit = defineEmits<{ set: [fields: SlideFields], remove: [], select: [] }>()

const picture = computed(() => props.slide.steps[0]?.picture)
const words = computed(() => countWords(props.slide.notes))
const planned = computed(() => plannedTime({ ...props.slide, skip: false }))
const name = computed(() => props.slide.title || `Slide ${String(props.number)}`)

function setPlanned(event: Event): void {
  const field = event.target as HTMLInputElement
  const read = field.value.trim() === '' ? null : readDuration(field.value)
  const unread = read === null && field.value.trim() !== ''
  if (!unread && read !== props.slide.planned) emit('set', { planned: read })
  field.value = duration(read ?? (unread ? planned.value : proposedTime(props.slide)))
}
</script>

<template>
  <article class="row" :class="{ current, skipped: slide.skip }" :aria-label="`Slide ${number}: ${name}`" @focusin="emit('select')" @click="emit('select')">
    <div class="grip" :title="`Drag to move slide ${number}`"><b class="clock">{{ number }}</b><Rank aria-hidden="true" /></div>
    <div class="left">
      <img v-if="picture" class="picture" :src="assetUrl(talkId, picture.thumb)" :alt="name" loading="lazy" draggable="false">
      <span v-if="slide.steps.length > 1" class="steps soft">{{ slide.steps.length }} steps</span>
    </div>
    <div class="words">
      <input
        class="title" :value="slide.title" :placeholder="`Slide ${number}`" :aria-label="`Title of slide ${number}`" maxlength="200"
        @change="emit('set', { title: ($event.target as HTMLInputElement).value.trim() })"
      >
      <el-input
        class="notes" type="textarea" :model-value="slide.notes" :autosize="{ minRows: 2 }" resize="none" :maxlength="20000"
        placeholder="What you will say. Only you see it." :aria-label="`Notes of slide ${number}`" @update:model-value="emit('set', { notes: $event })"
      />
    </div>
    <div class="times">
      <label class="plan">
        <span class="soft">planned</span>
        <input class="clock" :value="duration(planned)" :class="{ own: slide.planned !== null }" :aria-label="`Planned time of slide ${number}`" @change="setPlanned">
      </label>
      <p v-if="recorded > 0"><span class="soft">recorded</span><span class="clock">{{ duration(recorded) }}</span></p>
      <p v-if="words > 0"><span class="soft">words</span><span class="clock">{{ words }}</span></p>
      <div class="foot">
        <InsetMap :slide="slide" :shape="shape" />
        <button class="press quiet small" :aria-label="slide.skip ? `Use slide ${number} again` : `Skip slide ${number}`" :title="slide.skip ? 'Use again' : 'Skip'" @click.stop="emit('set', { skip: !slide.skip })">
          <component :is="slide.skip ? View : Hide" aria-hidden="true" />
        </button>
        <button class="press quiet small" :aria-label="`Delete slide ${number}`" title="Delete" @click.stop="emit('remove')"><Delete aria-hidden="true" /></button>
      </div>
    </div>
  </article>
</template>

<style scoped>
.row { display: grid; grid-template-columns: 30px 148px minmax(0, 1fr) 138px; gap: 12px; padding: 12px 12px 12px 0; border-bottom: 1px solid var(--line); border-left: 4px solid transparent; background: var(--card); }
.row.current { border-left-color: var(--accent); }
.row.skipped .left, .row.skipped .words { opacity: 0.5; }
.grip { display: grid; justify-items: center; align-content: start; gap: 4px; padding-top: 2px; cursor: grab; color: var(--soft); }
.grip svg { width: 15px; }
.left { display: grid; gap: 4px; align-content: start; }
.picture { width: 148px; border: 1px solid var(--line); display: block; }
.steps { font-size: 13px; }
.title { width: 100%; border: 1px solid transparent; border-radius: 4px; background: transparent; font: 600 15.5px var(--read); padding: 2px 8px; text-overflow: ellipsis; }
.title:hover { border-color: var(--line); }
.notes :deep(textarea) { box-shadow: none; background: transparent; padding: 2px 8px; line-height: 1.5; border-radius: 4px; }
.notes :deep(textarea:hover) { box-shadow: 0 0 0 1px var(--line); }
.notes :deep(textarea:focus-visible) { outline: 2px solid var(--focus); }
.times { display: grid; align-content: start; gap: 4px; font-size: 14px; }
.times p, .plan { display: flex; justify-content: space-between; align-items: center; padding-right: 8px; }
.plan { padding-right: 0; }
.plan input { width: 62px; text-align: right; padding: 1px 7px; border: 1px dashed var(--line); border-radius: 4px; background: transparent; }
.plan input.own { border-style: solid; border-color: var(--brand); font-weight: 700; }
.foot { display: flex; align-items: center; gap: 2px; margin-top: 2px; }
.foot :first-child { margin-right: auto; }
</style>
