<script setup lang="ts">
import { FACES, PALETTES } from '@core/compose'
import { changed, wordsOnObject } from '@core/objects'
import type { ObjectScene } from '@core/objects'
import { MOST_WORDS_ON } from '@core/model'
import type { ObjectForm } from '@core/model'
import { LABEL_LETTERS, LABEL_PADDING, onFill } from '@core/paint'
import { useObjects } from '~/stores/objects'
import { useTalk } from '~/stores/talk'

/** Words of an object, written where it lies: turned, aligned and as large as they will be. */
const props = defineProps<{ scene: ObjectScene }>()
const objects = useObjects()
const talk = useTalk()
const form = computed(() => props.scene.object.form)
const isText = computed(() => form.value.kind === 'text')
const words = computed(() => wordsOnObject(form.value) ?? '')

function write(text: string): void {
  const { id } = props.scene.object
  const fields = isText.value ? { text: text.slice(0, MOST_WORDS_ON.text) } : { label: text.slice(0, MOST_WORDS_ON.label) }
  objects.keep(changed(objects.kept, new Set([id]), (object) => ({ ...object, form: { ...object.form, ...fields } as ObjectForm })))
}
/** In hundredths of the slide's shorter side, which is what `cqmin` is here. */
const style = computed(() => {
  const { object, at, turn, scale, theme } = props.scene
  const { w, h } = object.box
  const filled = form.value.kind === 'callout' || ('filled' in form.value && form.value.filled)
  const colour = isText.value ? object.colour : 'text'
  const letters = form.value.kind === 'text' ? form.value.letters * 100 : LABEL_LETTERS / 10
  return {
    left: `${String((at.x - w / 2) * 100)}%`,
    top: `${String((at.y - h / 2) * 100)}%`,
    width: `${String(w * 100)}%`,
    minHeight: `${String(h * 100)}%`,
    // Labels stand in the middle of what they are on.
    display: 'grid',
    alignContent: isText.value ? 'start' : 'center',
    padding: isText.value ? '0' : `${String(LABEL_PADDING / 10)}cqmin`,
    transform: `rotate(${String(turn)}deg) scale(${String(scale)})`,
    fontSize: `${String(letters)}cqmin`,
    fontFamily: FACES.read,
    lineHeight: '1.3',
    textAlign:
      form.value.kind === 'text' ? ({ start: 'start', middle: 'center', end: 'end' } as const)[form.value.align] : ('center' as const),
    color: PALETTES[theme][filled ? onFill(object.colour) : colour],
    background: filled ? PALETTES[theme][object.colour] : 'transparent',
  }
})
</script>

<template>
  <WordsInPlace
    :model-value="words"
    :style="style"
    label="Words on the object"
    placeholder="Write …"
    :lang="talk.talk?.language"
    @update:model-value="write"
    @done="objects.writing = null"
  />
</template>
