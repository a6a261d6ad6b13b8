<script setup lang="ts">
import { useShare } from '~/composables/useShare'
import { useTalk } from '~/stores/talk'

/** What those who watched asked, where the film is mended. */
const talk = useTalk()
const { questions, trouble, load, answer, remove } = useShare(() => talk.talk?.id ?? '')
watch(
  () => [talk.talk?.id, talk.asked, talk.programme.revision],
  () => void load(),
  { immediate: true },
)
</script>

<template>
  <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
  <AskedQuestions v-if="questions.length > 0" :questions="questions" :talk-id="talk.talk?.id ?? ''" @answer="answer" @remove="remove" />
  <p v-else class="soft">Nobody has asked anything. What is asked on the screening page stands here, with its place in the film.</p>
</template>
