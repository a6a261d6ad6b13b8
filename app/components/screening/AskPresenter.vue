<script setup lang="ts">
import type { Ms } from '@core/model'
import type { QuestionView } from '@contracts'
import { api, sentenceOf } from '~/client'
import { useKept } from '~/composables/useKept'
import { duration } from '~/words'

/** Asks the presenter something about what is on; reads what was answered. Only its asker knows a question's id. */
const props = defineProps<{ pageKey: string; at: Ms }>()
const emit = defineEmits<{ seek: [at: Ms] }>()
const own = useKept<readonly string[]>(`aisle-asked:${props.pageKey}`, [])
const asking = ref(false)
const from = ref<Ms>(0)
const words = ref('')
const name = ref('')
const sent = ref(false)
const busy = ref(false)
const trouble = ref<string | null>(null)
const questions = shallowRef<readonly QuestionView[]>([])

async function load(): Promise<void> {
  questions.value = await api.get<readonly QuestionView[]>(`/screenings/${props.pageKey}/questions?own=${own.value.slice(-50).join(',')}`)
}
function open(): void {
  from.value = props.at
  sent.value = false
  asking.value = true
}
async function send(): Promise<void> {
  busy.value = true
  trouble.value = null
  try {
    const question = await api.post<QuestionView>(`/screenings/${props.pageKey}/questions`, {
      at: Math.round(from.value),
      name: name.value,
      words: words.value,
    })
    own.value = [...own.value, question.id]
    words.value = ''
    asking.value = false
    sent.value = true
    await load()
  } catch (error) {
    trouble.value = sentenceOf(error)
  } finally {
    busy.value = false
  }
}
onMounted(() => {
  load().catch(() => undefined)
})
</script>

<template>
  <section class="ask" aria-labelledby="ask-title">
    <h2 id="ask-title">Questions</h2>
    <article v-for="question in questions" :key="question.id">
      <p class="head">
        <b>{{ question.name || 'Somebody' }}</b><button
          v-if="question.at !== null"
          class="press quiet small clock"
          @click="emit('seek', question.at)"
        >
          {{ duration(question.at) }}
        </button>
      </p>
      <p>{{ question.words }}</p>
      <p v-if="question.answer" class="answer">{{ question.answer }}</p>
      <p v-else class="soft">Not answered yet; only you and the presenter see this.</p>
    </article>
    <p v-if="sent" role="status">Your question is with the presenter. The answer stands here when you come back in this browser.</p>
    <form v-if="asking" @submit.prevent="send">
      <label
        ><span
          >Your question about <span class="clock">{{ duration(from) }}</span></span
        >
        <textarea v-model="words" rows="4" maxlength="2000" required />
      </label>
      <label>Your name, if you like <input v-model="name" maxlength="100" autocomplete="name" /></label>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <div class="row">
        <button class="press main" :disabled="busy || words.trim() === ''">Send</button>
        <button type="button" class="press quiet" @click="asking = false">Leave it</button>
      </div>
    </form>
    <button v-else class="press start" @click="open">Ask the presenter</button>
  </section>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 12px;
  justify-items: start;
}
h2 {
  font-size: 20px;
}
article {
  display: grid;
  gap: 4px;
  width: 100%;
  padding-top: 8px;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
}
.answer {
  padding: 8px 12px;
  border-left: 4px solid var(--brand);
  background: var(--card);
  white-space: pre-line;
}
form {
  display: grid;
  gap: 12px;
  width: 100%;
}
label {
  display: grid;
  gap: 4px;
}
textarea,
input {
  width: 100%;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
.row {
  display: flex;
  gap: 8px;
}
@media (scripting: none) {
  .start {
    display: none;
  }
}
</style>
