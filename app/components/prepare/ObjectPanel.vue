<script setup lang="ts">
import { Plus } from '@element-plus/icons-vue'
import { Circle, Image as ImageIcon, MessageSquare, MoveUpRight, Pencil, Slash, Square, Type } from '@lucide/vue'
import type { Component } from 'vue'
import type { PlainKind } from '@core/objects'
import { THEMES } from '@core/model'
import type { Slide } from '@core/model'
import { ACCEPTED_PICTURES } from '~/client'
import { useObjects } from '~/stores/objects'
import { OBJECT_WORDS, THEME_WORDS, nameOfObject } from '~/words'

/** What is drawn on a slide: to be put on it, to be chosen, and what can be done with what is chosen. */
defineProps<{ slide: Slide; step: number }>()
const emit = defineEmits<{ step: [step: number] }>()
const objects = useObjects()
const chooser = ref<{ readonly open: () => void } | null>(null)
const KINDS: readonly { readonly kind: PlainKind; readonly icon: Component }[] = [
  { kind: 'text', icon: Type },
  { kind: 'line', icon: Slash },
  { kind: 'arrow', icon: MoveUpRight },
  { kind: 'box', icon: Square },
  { kind: 'ellipse', icon: Circle },
  { kind: 'callout', icon: MessageSquare },
]
const isKind = (what: string): what is PlainKind => KINDS.some(({ kind }) => kind === what)
function put(what: string): void {
  if (isKind(what)) void objects.add(what)
  else if (what === 'picture') chooser.value?.open()
  else objects.pen = 'line'
}
</script>

<template>
  <div class="adds">
    <el-dropdown trigger="click" @command="put">
      <button class="press small"><Plus aria-hidden="true" />Put on it …</button>
      <template #dropdown
        ><el-dropdown-menu>
          <el-dropdown-item v-for="{ kind, icon } in KINDS" :key="kind" :command="kind" :icon="icon">{{
            OBJECT_WORDS[kind]
          }}</el-dropdown-item>
          <el-dropdown-item command="picture" :icon="ImageIcon">{{ OBJECT_WORDS.picture }}</el-dropdown-item>
          <el-dropdown-item command="hand" :icon="Pencil">{{ OBJECT_WORDS.freehand }}</el-dropdown-item>
        </el-dropdown-menu></template
      >
    </el-dropdown>
    <span v-if="objects.pen === 'line'" class="soft" role="status">Draw it on the slide.</span>
    <ul v-if="objects.kept.objects.length > 0" class="chips" aria-label="Objects on this slide">
      <li v-for="object in objects.kept.objects" :key="object.id">
        <ObjectChip :object="object" :name="nameOfObject(object.form)" />
      </li>
    </ul>
    <label v-if="slide.composition === null && objects.kept.objects.length > 0 && objects.chosen.size === 0" class="soft"
      >Colours
      <el-select class="theme" size="small" :model-value="objects.kept.theme" aria-label="Colours" @update:model-value="objects.setTheme">
        <el-option v-for="one in THEMES" :key="one" :value="one" :label="THEME_WORDS[one]" />
      </el-select>
    </label>
    <FileChooser ref="chooser" multiple :accept="ACCEPTED_PICTURES" aria-label="Picture to put on the slide" @files="objects.addPictures" />
  </div>
  <p v-if="objects.kept.objects.length === 0" class="soft">
    Words, shapes and pictures that you drag, turn and size on the slide itself. They can move with its steps: as you go on at the Lectern,
    and in the video as they did then.
  </p>
  <ObjectRow v-if="objects.chosenObjects.length > 0" :step="step" :steps="slide.steps.length" @step="emit('step', $event)" />
  <MotionLane v-if="objects.kept.objects.length > 0" :slide="slide" :step="step" @step="emit('step', $event)" />
</template>

<style scoped>
.adds {
  display: flex;
  flex: none;
  gap: 12px;
  align-items: start;
}
.adds svg {
  width: 15px;
  height: 15px;
}
.adds label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  margin-left: auto;
  font-size: 13.5px;
}
.theme {
  width: 104px;
}
.chips {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
  gap: 6px;
  max-height: 64px;
  margin: 0;
  padding: 2px;
  overflow-y: auto;
  list-style: none;
}
.chips li {
  display: contents;
}
</style>
