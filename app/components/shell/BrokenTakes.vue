<script setup lang="ts">
import { useTimeoutFn } from '@vueuse/core'
import { discardBrokenTake, findBrokenTakes, recoverTake } from '~/capture'
import type { BrokenTake } from '~/capture'
import { sentenceOf } from '~/client'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'
import { duration, moment } from '~/words'

/** Takes that were broken off, offered with what is there of them. */
const emit = defineEmits<{ found: [] }>()
const talk = useTalk()
const lectern = useLectern()
const broken = shallowRef<readonly BrokenTake[]>([])
const busy = ref<string | null>(null)
const trouble = ref<string | null>(null)

async function load(): Promise<void> {
  // The take that was just stopped here is not broken off, even while the page does not know yet that it is closed.
  if (talk.talk !== null) broken.value = (await findBrokenTakes(talk.talk)).filter((take) => take.id !== lectern.lastTake?.id)
  if (broken.value.length > 0) emit('found')
}

async function settle(take: BrokenTake, work: (id: string) => Promise<void>): Promise<void> {
  busy.value = take.id
  trouble.value = null
  try {
    await work(take.id)
    broken.value = broken.value.filter((one) => one.id !== take.id)
    await talk.refresh()
  } catch (error) {
    trouble.value = sentenceOf(error)
  } finally {
    busy.value = null
  }
}

/** A take that another browser records may be broken off a moment later: then it is not heard of any more. */
const LOOK_AGAIN = 25_000
const elsewhere = computed(() => talk.talk?.takes.some((take) => take.state === 'open' && take.live) === true)
const again = useTimeoutFn(
  async () => {
    await talk.refresh().catch(() => undefined)
    await load()
    if (elsewhere.value && !lectern.live) again.start()
  },
  LOOK_AGAIN,
  { immediate: false },
)

watch(
  () => talk.talk?.id,
  async () => {
    await load()
    if (elsewhere.value) again.start()
  },
  { immediate: true },
)
</script>

<template>
  <div v-for="take in broken" :key="take.id" class="notice" role="alert">
    <p>
      A take begun {{ moment(take.began) }} was broken off.
      <b v-if="take.about > 0">About {{ duration(take.about) }} of it is {{ take.here ? 'here' : 'on the server' }}.</b>
      <template v-else-if="!take.here">What had arrived of it is on the server.</template>
      {{ trouble }}
    </p>
    <button class="press main small" :disabled="busy !== null" @click="settle(take, recoverTake)">
      {{ busy === take.id ? 'One moment …' : 'Keep it' }}
    </button>
    <button class="press small danger" :disabled="busy !== null" @click="settle(take, discardBrokenTake)">Discard it</button>
  </div>
</template>
