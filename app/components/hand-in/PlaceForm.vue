<script setup lang="ts">
import type { PlaceKind, PlaceView } from '@contracts'
import { api } from '~/client'

/** A place of one's own: a folder of a school's cloud drive, or a server that takes uploads. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ place: PlaceView | null }>()
const emit = defineEmits<{ kept: [] }>()
const KINDS = [
  { value: 'webdav', label: 'a folder that speaks WebDAV' },
  { value: 'tus', label: 'a server that takes uploads by tus' },
] as const
const fields = ref({ name: '', kind: 'webdav' as PlaceKind, address: '', user: '', word: '' })
const tried = ref<string | null>(null)
const { busy, trouble, attempt } = useAttempt()
watch(open, (now) => {
  if (!now) return
  const { name = '', kind = 'webdav', address = '', user = '' } = props.place ?? {}
  fields.value = { name, kind, address, user, word: '' }
  tried.value = null
  trouble.value = null
})

const kept = ref<string | null>(null)
/** An untouched password stays as it is. */
async function keep(): Promise<string> {
  const { word, ...rest } = fields.value
  const body = word === '' && props.place !== null ? rest : { ...rest, word }
  const id = props.place?.id ?? kept.value
  if (id !== null) {
    await api.put(`/places/${id}`, body)
    return id
  }
  kept.value = (await api.post<{ id: string }>('/places', body)).id
  return kept.value
}
const close = (): Promise<void> =>
  attempt(async () => {
    await keep()
    kept.value = null
    open.value = false
    emit('kept')
  })
const tryIt = (): Promise<void> =>
  attempt(async () => {
    tried.value = null
    const id = await keep()
    emit('kept')
    await api.post(`/places/${id}/try`)
    tried.value = 'It is there, and lets you in.'
  })
</script>

<template>
  <el-dialog v-model="open" :title="place ? 'Change this place' : 'A new place'" width="480" append-to-body>
    <form id="place-form" class="form" @submit.prevent="close">
      <label class="asked">What you call it <el-input v-model="fields.name" maxlength="60" placeholder="My school's drive" /></label>
      <el-radio-group v-model="fields.kind" aria-label="What it is">
        <el-radio v-for="one in KINDS" :key="one.value" :value="one.value">{{ one.label }}</el-radio>
      </el-radio-group>
      <label class="asked"
        >Its address <el-input v-model="fields.address" maxlength="500" placeholder="https://drive.example/dav/talks"
      /></label>
      <label class="asked">Your name there <el-input v-model="fields.user" maxlength="200" autocomplete="off" /></label>
      <label class="asked"
        >Your password there
        <el-input
          v-model="fields.word"
          type="password"
          maxlength="500"
          autocomplete="new-password"
          :placeholder="place ? 'stays as it is' : ''"
        />
      </label>
      <p class="soft">It is kept sealed, and never shown again.</p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <p v-else-if="tried" class="notice" role="status">{{ tried }}</p>
    </form>
    <template #footer>
      <button class="press" :disabled="busy || fields.name.trim() === '' || fields.address.trim() === ''" @click="tryIt">Try it</button>
      <button class="press main" form="place-form" :disabled="busy || fields.name.trim() === '' || fields.address.trim() === ''">
        Keep it
      </button>
    </template>
  </el-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
}
</style>
