<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useTheme } from 'vuetify';
import { kindWords, pageOfItem, secondOf, useFinding } from '../kit/finding.ts';
import KeyCap from '../kit/KeyCap.vue';
import Shape from '../kit/Shape.vue';
import { roleWords } from '../kit/words.ts';
import { type Area, areas } from './areas.ts';
import { useHome } from './home.ts';
import { useKeys } from './keys.ts';
import { useNotices } from './notices.ts';
import { useSession } from './session.ts';
import { useVoicemail } from './voicemail.ts';

const emit = defineEmits<{ keys: []; settings: [] }>();
const session = useSession();
const notices = useNotices();
const theme = useTheme();
const route = useRoute();
const router = useRouter();

const words = computed(() => areas.filter((area) => session.mayRead || area.agents));
const home = useHome();
const voicemail = useVoicemail();

const openIn = (area: Area) => home.open.get(area.findings ?? '');

function isChosen(area: Area): boolean {
  if (area.path === '/') return route.path === '/';
  return route.path.startsWith(area.path) || (area.holds !== null && route.path.startsWith(area.holds));
}

const namedHere = Object.keys(pageOfItem);

const find = ref('');
const field = ref<HTMLInputElement | null>(null);
const marked = ref(0);
const {
  search,
  typed,
  found: entries,
  open: asking,
} = useFinding(
  () => namedHere,
  () => '',
);
watch(find, (text) => {
  search.value = text.trim();
  asking.value = search.value !== '';
});
const found = computed(() =>
  typed.value === ''
    ? []
    : entries.value.slice(0, 9).map((entry) => ({
        path: pageOfItem[entry.kind]!(entry.id),
        word: entry.name,
        second: secondOf(entry) || (kindWords[entry.kind] ?? '').toLowerCase(),
      })),
);

function go(index: number): void {
  const target = found.value[index];
  if (target === undefined) return;
  void router.push(target.path);
  find.value = '';
  field.value?.blur();
}

function turnTheme(): void {
  const next = theme.global.name.value === 'day' ? 'night' : 'day';
  theme.change(next);
  localStorage.setItem('night-bell-theme', next);
}

const look = () => field.value?.focus();
useKeys({ '/': look, 'mod+k': look });
</script>

<template>
  <nav class="index" aria-label="Index">
    <div class="brand">
      <svg width="16" height="48" viewBox="0 0 16 48" aria-hidden="true">
        <path d="M8 0v12M8 33v6" stroke="var(--rope-d)" stroke-width="2.400" />
        <rect x="1.500" y="10" width="13" height="24" rx="6.500" fill="var(--sal-b)" stroke="var(--sal-a)" />
        <path
          d="M2.500 19 13.500 13M2 25l12-6.500M2.500 31 14 24.500"
          stroke="var(--sal-a)"
          stroke-width="2.800"
        />
        <circle cx="8" cy="42" r="3" fill="none" stroke="var(--rope-d)" stroke-width="2" />
      </svg>
      <div>
        <strong>Night Bell</strong>
        <span class="small second">{{ session.view?.installation.name }}</span>
      </div>
    </div>
    <div v-if="session.mayRead" class="find">
      <input
        ref="field"
        v-model="find"
        type="text"
        placeholder="Find anything"
        aria-label="Find anything"
        @input="marked = 0"
        @keydown.down.prevent="marked = Math.min(found.length - 1, marked + 1)"
        @keydown.up.prevent="marked = Math.max(0, marked - 1)"
        @keydown.enter="go(marked)"
        @keydown.esc="find = ''"
      />
      <KeyCap>/</KeyCap>
      <ul v-if="find.trim() !== ''" class="found">
        <li
          v-for="(each, position) in found"
          :key="each.path"
          :class="{ marked: position === marked }"
          @mousedown.prevent="go(position)"
        >
          <span>{{ each.word }}</span> <span class="mono second">{{ each.second }}</span>
        </li>
        <li v-if="found.length === 0" class="second">Nothing is called that.</li>
      </ul>
    </div>
    <ul class="words">
      <li v-for="area in words" :key="area.path" :class="{ ruled: area.rule && session.mayRead }">
        <router-link :to="area.path" class="word" :class="{ chosen: isChosen(area) }" :title="area.word">
          <span class="mono shortcut">{{ area.shortcut }}</span>
          <span class="name">{{ area.word }}</span>
          <span
            v-if="area.path === '/desk' && voicemail.fresh.value > 0"
            class="open"
            :title="`${voicemail.fresh.value} new messages`"
          >
            <Shape name="messageNew" />{{ voicemail.fresh.value }}
          </span>
          <span v-if="openIn(area)" class="open" :title="`${openIn(area)!.count} open findings`">
            <Shape :name="openIn(area)!.fault ? 'fault' : 'missing'" />{{ openIn(area)!.count }}
          </span>
        </router-link>
      </li>
    </ul>
    <footer>
      <button class="quiet self" type="button" title="Your settings" @click="emit('settings')">
        {{ session.view?.person?.name }}
      </button>
      <div class="row">
        <span class="second small">{{ session.role ? roleWords[session.role] : '' }}</span>
        <button class="quiet" type="button" @click="session.signOut().catch(notices.fail)">
          <span class="wide">Sign out</span><span class="narrow" title="Sign out">Out</span>
        </button>
      </div>
      <div class="row wide">
        <button class="quiet" type="button" @click="turnTheme">
          {{ theme.global.name.value === 'day' ? 'Day ledger' : 'Night watch' }}
        </button>
        <button class="quiet" type="button" @click="emit('keys')">Help<KeyCap>?</KeyCap></button>
      </div>
    </footer>
  </nav>
</template>

<style scoped>
.index {
  background: var(--board);
  border-right: 1px solid var(--rule);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
:global(.v-theme--night .index) {
  background-image: radial-gradient(circle 270px at 22px 22px, rgba(227, 184, 95, 0.14), transparent);
}
.brand {
  height: 60px;
  padding: 0 0 0 14px;
  display: flex;
  gap: 9px;
}
.brand > div {
  padding-top: 14px;
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.brand strong {
  font: 700 17px/20px var(--serif);
}
.brand .small {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 130px;
}
.find {
  margin: 2px 12px 6px;
  border-bottom: 1px solid var(--rule2);
  display: flex;
  align-items: center;
  position: relative;
  color: var(--ink2);
}
.find input {
  width: 100%;
  min-width: 0;
  height: 26px;
  border: 0;
  background: none;
  color: var(--ink);
  padding: 0 2px;
}
.find input::placeholder {
  color: var(--ink2);
}
.found {
  position: absolute;
  top: 30px;
  left: 0;
  width: 320px;
  background: var(--sheet);
  border: 1px solid var(--rule2);
  z-index: 20;
  color: var(--ink);
}
.found li {
  display: flex;
  justify-content: space-between;
  padding: 5px 10px;
  cursor: pointer;
}
.found li.marked,
.found li:hover {
  background: var(--sel);
}
.words {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
}
.ruled {
  margin-top: 5px;
  padding-top: 5px;
  background: linear-gradient(var(--rule), var(--rule)) 40px 0 / calc(100% - 54px) 1px no-repeat;
}
.word {
  height: 24px;
  display: flex;
  align-items: center;
  padding-right: 9px;
  color: var(--ink);
  text-decoration: none;
  font-weight: 400;
  position: relative;
}
.word:hover {
  background: color-mix(in srgb, var(--page) 45%, transparent);
}
.shortcut {
  width: 26px;
  text-align: right;
  color: var(--ink2);
  margin-right: 8px;
}
.name {
  flex: 1;
}
.word.chosen {
  background: var(--page);
  font-weight: 600;
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  margin-right: -1px;
  clip-path: polygon(6px 0, 100% 0, 100% 100%, 6px 100%, 0 50%);
}
.open {
  display: flex;
  align-items: center;
  gap: 5px;
  color: var(--ink2);
}
footer {
  flex: none;
  border-top: 1px solid var(--rule);
  padding: 10px 12px 10px 14px;
  display: flex;
  flex-direction: column;
  gap: 2px;
}
.row {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.quiet {
  border: 0;
  background: none;
  color: inherit;
  padding: 2px 0;
  text-align: left;
  cursor: pointer;
  font-size: 13px;
}
.quiet.self {
  padding: 0;
  font-weight: 600;
}
.quiet:hover {
  text-decoration: underline;
}
.narrow {
  display: none;
}
@media (max-width: 1100px) {
  .name,
  .open,
  .brand > div,
  .find,
  .self,
  .row > .second,
  .wide {
    display: none;
  }
  footer {
    padding: 10px 8px;
  }
  .narrow {
    display: inline;
  }
}
</style>
