<script setup lang="ts">
import type { PersonRow, Quota } from '@contracts'

/** What one person may keep and have made, where that is not as everybody's. */
const props = defineProps<{ person: PersonRow; usual: Quota }>()
const emit = defineEmits<{ close: []; set: [own: PersonRow['own']] }>()
const GIGABYTE = 1e9
const gigabytes = ref(props.person.own.bytes === null ? undefined : props.person.own.bytes / GIGABYTE)
const minutes = ref(props.person.own.filmMinutes ?? undefined)
const takes = ref(props.person.own.recordings ?? undefined)
const usually = (value: number | null): string => (value === null ? 'no limit' : String(value))
function set(): void {
  emit('set', {
    bytes: gigabytes.value == null ? null : Math.round(gigabytes.value * GIGABYTE),
    filmMinutes: minutes.value ?? null,
    recordings: takes.value ?? null,
  })
}
</script>

<template>
  <el-dialog :model-value="true" :title="`What ${person.name} may have`" width="460" append-to-body @close="emit('close')">
    <p class="soft">What is left empty is as for everybody.</p>
    <form id="person-quota" @submit.prevent="set">
      <label class="asked"
        >Room, in GB
        <el-input-number v-model="gigabytes" :min="0" :max="1e6" :precision="1" :placeholder="usually(usual.bytes / GIGABYTE)" />
      </label>
      <label class="asked"
        >Minutes of film in thirty days
        <el-input-number v-model="minutes" :min="0" :max="1e6" :precision="0" :placeholder="usually(usual.filmMinutes)" />
      </label>
      <label class="asked"
        >Takes recorded at once
        <el-input-number v-model="takes" :min="0" :max="1000" :precision="0" :placeholder="usually(usual.recordings)" />
      </label>
    </form>
    <template #footer>
      <button class="press" @click="emit('close')">Leave it</button>
      <button class="press main" type="submit" form="person-quota">Set it</button>
    </template>
  </el-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
  margin-top: 14px;
}
.el-input-number {
  width: 200px;
}
</style>
