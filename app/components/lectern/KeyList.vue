<script setup lang="ts">
import { KEY_WORDS } from '~/composables/useLecternKeys'

/** All keys of the Lectern. */
const open = defineModel<boolean>({ required: true })
</script>

<template>
  <el-dialog v-model="open" title="Keys" width="520" class="dark-shell" append-to-body>
    <dl class="keylist">
      <template v-for="[key, say] in KEY_WORDS" :key="key"
        ><dt class="clock">{{ key }}</dt>
        <dd>{{ say }}</dd></template
      >
    </dl>
  </el-dialog>
</template>

<style scoped>
.keylist {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 18px;
  margin: 0;
}
dd {
  margin: 0;
}
</style>
