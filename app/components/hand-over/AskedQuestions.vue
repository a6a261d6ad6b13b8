<script setup lang="ts">
import type { AnswerRequest, QuestionView } from '@contracts'
import { duration, moment } from '~/words'

/** What those who watched asked, each with its place in the film, and the answers. */
defineProps<{ questions: readonly QuestionView[]; talkId: string }>()
const emit = defineEmits<{ answer: [id: string, request: AnswerRequest]; remove: [id: string] }>()
const answering = ref<string | null>(null)
const words = ref('')
const open = ref(false)

function begin(question: QuestionView): void {
  answering.value = question.id
  words.value = question.answer ?? ''
  open.value = question.open
}
function send(id: string): void {
  emit('answer', id, { answer: words.value, open: open.value })
  answering.value = null
}
</script>

<template>
  <section class="asked" aria-label="Questions">
    <article v-for="question in questions" :key="question.id">
      <p class="head">
        <b>{{ question.name || 'Somebody' }}</b>
        <NuxtLink v-if="question.at !== null" class="clock" :to="`/talks/${talkId}/review?at=${question.at}`">{{
          duration(question.at)
        }}</NuxtLink>
        <span v-else class="soft">about what is no longer in it</span>
        <span class="gap" />
        <span class="soft">{{ moment(question.asked) }}</span>
      </p>
      <p class="words">{{ question.words }}</p>
      <form v-if="answering === question.id" @submit.prevent="send(question.id)">
        <el-input v-model="words" type="textarea" :autosize="{ minRows: 2 }" maxlength="4000" aria-label="Your answer" />
        <div class="row">
          <el-checkbox v-model="open">for everybody who watches</el-checkbox><span class="gap" />
          <button type="button" class="press quiet small" @click="answering = null">Leave it</button
          ><button class="press main small" :disabled="words.trim() === ''">Answer</button>
        </div>
      </form>
      <template v-else>
        <p v-if="question.answer" class="answer">
          {{ question.answer }} <span class="soft">({{ question.open ? 'for everybody' : 'for the asker alone' }})</span>
        </p>
        <div class="row">
          <button class="press small" @click="begin(question)">{{ question.answer ? 'Change the answer' : 'Answer' }}</button><button
            class="press quiet small danger"
            @click="emit('remove', question.id)"
          >
            Delete
          </button>
        </div>
      </template>
    </article>
  </section>
</template>

<style scoped>
.asked {
  display: grid;
  gap: 12px;
}
article {
  display: grid;
  gap: 8px;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--card);
}
.head,
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
.gap {
  flex: 1;
}
.words,
.answer {
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.answer {
  padding-left: 12px;
  border-left: 4px solid var(--brand);
}
form {
  display: grid;
  gap: 8px;
}
</style>
