<script setup lang="ts">
import { Warning } from '@element-plus/icons-vue'

/** Something that is worth a look before a file is made: it says where, and leads there. */
defineProps<{
  say: string
  places: readonly { readonly name: string; readonly to: string; readonly title?: string }[]
}>()
/** Places that are named; the others are counted. */
const NAMED = 3
</script>

<template>
  <li>
    <Warning aria-label="Look at this" />
    <span
      ><b>{{ say }}</b
      ><span class="soft"
        ><template v-for="(place, n) in places.slice(0, NAMED)" :key="n"
          >{{ n > 0 ? ', ' : '' }}<NuxtLink :to="place.to" :title="place.title">{{ place.name }}</NuxtLink></template
        ><template v-if="places.length > NAMED"> and {{ places.length - NAMED }} more</template></span
      ><slot
    /></span>
  </li>
</template>

<style scoped>
/* Alone in its line it is a target of its own. */
a {
  display: inline-block;
  min-width: 24px;
  line-height: 24px;
}
</style>
