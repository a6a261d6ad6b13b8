<script setup lang="ts">
import { CONTAINERS } from '@core/rules'
import type { FieldSigns, Rules } from '@core/rules'
import { FRAME_RATES, LINES } from '@core/model'
import { draftOfRules, emptyDraft, emptyField, rulesOfDraft } from '~/hand-in'

/** Rules, written as sentences. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ written: [rules: Rules] }>()
/** Rules that are changed; left out: new ones are written. */
const props = defineProps<{ rules?: Rules | null }>()
const draft = ref(emptyDraft())
watch(open, (now) => {
  if (now) draft.value = props.rules == null ? emptyDraft() : draftOfRules(props.rules)
})
const SIGNS: readonly { readonly value: FieldSigns; readonly label: string }[] = [
  { value: 'anything', label: 'anything' },
  { value: 'digits', label: 'digits' },
  { value: 'letters', label: 'letters' },
  { value: 'letters-and-digits', label: 'letters and digits' },
]
const SHAPES = [
  { width: 16, height: 9 },
  { width: 4, height: 3 },
  { width: 1, height: 1 },
] as const
const WHERE = [
  { value: 'either', label: 'in the file or beside it' },
  { value: 'inside', label: 'in the file' },
  { value: 'beside', label: 'in a file of their own' },
] as const
/** A bound of the lines; 0: any. */
const linesBound = (which: 'least' | 'most') =>
  computed({
    get: () => draft.value.lines[which] ?? 0,
    set: (lines: number) => {
      draft.value.lines[which] = lines === 0 ? null : lines
    },
  })
const leastLines = linesBound('least')
const mostLines = linesBound('most')
const shape = computed({
  get: () => `${String(draft.value.shape.width)}:${String(draft.value.shape.height)}`,
  set: (text: string) => {
    const [width = 16, height = 9] = text.split(':').map(Number)
    draft.value.shape = { ...draft.value.shape, width, height }
  },
})
</script>

<template>
  <el-dialog v-model="open" :title="rules ? 'Change rules' : 'Write rules'" width="720" top="5vh" append-to-body>
    <form id="rules-form" class="form" @submit.prevent="emit('written', rulesOfDraft(draft))">
      <label class="asked">What they are for <el-input v-model="draft.name" maxlength="80" placeholder="Tides, class 9b" required /></label>
      <label class="asked">In a sentence, if you like <el-input v-model="draft.about" maxlength="400" /></label>
      <RuleRow v-model="draft.most.on" name="Longest length">
        At most <el-input-number v-model="draft.most.minutes" :min="0" :max="1439" size="small" aria-label="Longest: minutes" /> minutes and
        <el-input-number v-model="draft.most.seconds" :min="0" :max="59" size="small" aria-label="Longest: seconds" /> seconds long.
      </RuleRow>
      <RuleRow v-model="draft.least.on" name="Least length">
        At least <el-input-number v-model="draft.least.minutes" :min="0" :max="1439" size="small" aria-label="Least: minutes" /> minutes and
        <el-input-number v-model="draft.least.seconds" :min="0" :max="59" size="small" aria-label="Least: seconds" /> seconds long.
      </RuleRow>
      <RuleRow v-model="draft.size.on" name="Size">
        At most <el-input-number v-model="draft.size.megabytes" :min="1" :max="20000" size="small" aria-label="Megabytes" /> MB.
      </RuleRow>
      <RuleRow v-model="draft.containers.on" name="Kind of file">
        A file of the kind
        <el-select v-model="draft.containers.list" multiple size="small" class="wide" aria-label="Kinds of file">
          <el-option v-for="one in CONTAINERS" :key="one" :value="one" :label="one.toUpperCase()" />
        </el-select>
      </RuleRow>
      <RuleRow v-model="draft.lines.on" name="Lines">
        From
        <el-select v-model="leastLines" size="small" class="short" aria-label="Least lines">
          <el-option :value="0" label="any" />
          <el-option v-for="one in LINES" :key="one" :value="one" :label="String(one)" />
        </el-select>
        to
        <el-select v-model="mostLines" size="small" class="short" aria-label="Most lines">
          <el-option :value="0" label="any" />
          <el-option v-for="one in LINES" :key="one" :value="one" :label="String(one)" />
        </el-select>
        lines.
      </RuleRow>
      <RuleRow v-model="draft.shape.on" name="Shape">
        A picture of
        <el-select v-model="shape" size="small" class="short" aria-label="Shape">
          <el-option
            v-for="one in SHAPES"
            :key="one.width"
            :value="`${one.width}:${one.height}`"
            :label="`${one.width} to ${one.height}`"
          />
        </el-select>
      </RuleRow>
      <RuleRow v-model="draft.rates.on" name="Frames">
        <el-select v-model="draft.rates.list" multiple size="small" class="wide" aria-label="Frames a second">
          <el-option v-for="one in FRAME_RATES" :key="one" :value="one" :label="String(one)" />
        </el-select>
        frames a second.
      </RuleRow>
      <RuleRow v-model="draft.loudness.on" name="Loudness">
        Between <el-input-number v-model="draft.loudness.least" :min="-40" :max="0" size="small" aria-label="Least LUFS" /> and
        <el-input-number v-model="draft.loudness.most" :min="-40" :max="0" size="small" aria-label="Most LUFS" /> LUFS loud.
      </RuleRow>
      <RuleRow v-model="draft.captions.on" name="Captions">
        With captions
        <el-select v-model="draft.captions.where" size="small" class="wide" aria-label="Where captions are">
          <el-option v-for="one in WHERE" :key="one.value" :value="one.value" :label="one.label" />
        </el-select>
      </RuleRow>
      <RuleRow v-model="draft.transcript.on" name="Transcript">With a transcript.</RuleRow>
      <RuleRow v-model="draft.language.on" name="Language">
        Captions and transcript in the language
        <el-input v-model="draft.language.tag" size="small" class="short" maxlength="12" aria-label="Language, as a tag such as en" />
      </RuleRow>
      <RuleRow v-model="draft.cover.on" name="Cover">
        With a cover picture of at least
        <el-input-number v-model="draft.cover.width" :min="100" :max="4000" size="small" aria-label="Cover: width" /> by
        <el-input-number v-model="draft.cover.height" :min="100" :max="4000" size="small" aria-label="Cover: height" />
      </RuleRow>
      <RuleRow v-model="draft.fields.on" name="Fields">
        <span class="fields">
          <span>Filled in:</span>
          <span v-for="(field, n) in draft.fields.list" :key="n" class="field">
            <el-input v-model="field.label" size="small" class="medium" maxlength="60" :aria-label="`Field ${n + 1}`" />
            <el-select v-model="field.signs" size="small" class="medium" :aria-label="`Field ${n + 1}: what it takes`">
              <el-option v-for="one in SIGNS" :key="one.value" :value="one.value" :label="one.label" />
            </el-select>
            <el-checkbox v-model="field.optional">may stay empty</el-checkbox>
            <button
              type="button"
              class="press quiet small danger"
              :aria-label="`Delete field ${n + 1}`"
              @click="draft.fields.list.splice(n, 1)"
            >
              ×
            </button>
          </span>
          <span><button type="button" class="press small" @click="draft.fields.list.push(emptyField())">One more</button></span>
        </span>
      </RuleRow>
      <RuleRow v-model="draft.fileName.on" name="Name">
        Named <el-input v-model="draft.fileName.pattern" size="small" class="wide" maxlength="120" aria-label="Pattern of the name" /> with
        fields in braces.
      </RuleRow>
      <RuleRow v-model="draft.until.on" name="Last day">
        Handed in by <el-date-picker v-model="draft.until.at" type="datetime" size="small" aria-label="Last moment" />
      </RuleRow>
      <RuleRow v-model="draft.tries.on" name="Tries">
        Handed in at most <el-input-number v-model="draft.tries.most" :min="1" :max="100" size="small" aria-label="Tries" /> times.
      </RuleRow>
    </form>
    <template #footer>
      <button class="press" @click="open = false">Leave it</button>
      <button class="press main" form="rules-form" :disabled="draft.name.trim() === ''">Keep and use these</button>
    </template>
  </el-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 6px;
}
.asked {
  margin-bottom: 6px;
}
.wide {
  width: 240px;
}
.medium {
  width: 170px;
}
.short {
  width: 100px;
}
.fields {
  display: grid;
  gap: 6px;
  padding: 6px 0;
}
.field {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
