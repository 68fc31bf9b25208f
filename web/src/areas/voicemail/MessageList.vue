<script setup lang="ts">
import { computed, nextTick, ref, toRef, watch } from 'vue';
import type { MessageState, MessageView } from '@night-bell/core/contracts/voicemail-boxes';
import { formatNumber } from '@night-bell/core/numbers/format';
import { span } from '@night-bell/core/story/span';
import { ApiProblem } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import Shape from '../../kit/Shape.vue';
import SmallWave from '../../kit/SmallWave.vue';
import SoundPlayer from '../../kit/SoundPlayer.vue';
import { useClock } from '../../kit/time.ts';
import { useKeys } from '../../shell/keys.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useVoicemail } from '../../shell/voicemail.ts';
import { callBack, deleteMessages, forwardMessages, markMessages, useMessages } from './messages.ts';
import { messageShapes, messageWords } from './words.ts';

/** The messages of one box: heard, kept, sent on, answered and deleted where they stand. */
const props = defineProps<{ boxId: string; keepDays?: number | undefined }>();
const { messages, error, hasMore, more, readAgain } = useMessages(toRef(props, 'boxId'));
const { boxes } = useVoicemail();
const session = useSession();
const notices = useNotices();
const { moment } = useClock();
const chosenId = ref<string | null>(null);
const forwarding = ref(false);
const player = ref<{ toggle: () => Promise<void>; move: (by: number) => void }[]>([]);
const list = ref<HTMLElement | null>(null);

const here = computed(() => (messages.value ?? []).filter((message) => message.deletedAt === null));
const deleted = computed(() => (messages.value ?? []).filter((message) => message.deletedAt !== null));
const fresh = computed(() => here.value.filter(({ state }) => state === 'new'));
const chosen = computed(() => here.value.find(({ id }) => id === chosenId.value) ?? null);
const others = computed(() => (boxes.value ?? []).filter(({ id }) => id !== props.boxId));
const mayAct = computed(() => session.role !== 'auditor');
const denied = computed(() =>
  error.value instanceof ApiProblem && error.value.code === 'notAllowed' ? error.value.detail : null,
);
const nameOf = ({ callerName, from }: MessageView) =>
  callerName ?? (from === '' ? 'Withheld number' : formatNumber(from));

watch(
  () => props.boxId,
  () => (chosenId.value = null),
);
watch(chosenId, () => (forwarding.value = false));

async function act(work: Promise<unknown>, said: string | null): Promise<void> {
  try {
    await work;
    if (said !== null) notices.say(said);
    await readAgain();
  } catch (why) {
    notices.fail(why);
  }
}
const mark = (message: MessageView, state: MessageState, said: string | null = null) =>
  act(markMessages([message.id], state), said);
function heard(message: MessageView): void {
  if (message.state === 'new' && mayAct.value) void mark(message, 'heard');
}
const remove = (message: MessageView) => {
  const at = here.value.indexOf(message);
  const next = here.value[at + 1] ?? here.value[at - 1] ?? null;
  chosenId.value = next?.id ?? null;
  return act(deleteMessages([message.id], true), null);
};
const bringBack = (ids: string[]) => act(deleteMessages(ids, false), null);
const callCaller = (message: MessageView) =>
  act(callBack(message.id), `Your phone dials ${nameOf(message)}.`);
async function forward(message: MessageView, to: string | null): Promise<void> {
  const box = others.value.find(({ id }) => id === to);
  if (box === undefined) return;
  forwarding.value = false;
  await act(forwardMessages([message.id], box.id), `It is in ${box.name} too.`);
}
const keep = (message: MessageView) =>
  message.state === 'kept'
    ? mark(message, 'heard', 'It goes with its age again.')
    : mark(message, 'kept', 'Kept until somebody deletes it.');

async function step(by: number): Promise<void> {
  const at = here.value.findIndex(({ id }) => id === chosenId.value);
  const next = here.value[Math.min(here.value.length - 1, Math.max(0, at + by))];
  if (next === undefined) return;
  chosenId.value = next.id;
  await nextTick();
  list.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' });
}
const withChosen = (work: (message: MessageView) => unknown) => () => {
  if (chosen.value !== null) void work(chosen.value);
};
useKeys({
  p: () => void player.value[0]?.toggle(),
  c: withChosen((message) => mayAct.value && message.from !== '' && callCaller(message)),
  k: withChosen((message) => mayAct.value && keep(message)),
  Delete: withChosen((message) => mayAct.value && remove(message)),
});
</script>

<template>
  <section class="messages" aria-label="Messages">
    <header>
      <h2>Messages</h2>
      <span v-if="messages" class="second small"
        >{{ fresh.length }} new of {{ here.length
        }}<template v-if="keepDays">, kept {{ keepDays }} days</template></span
      >
      <button
        v-if="fresh.length > 0 && mayAct"
        class="link small all"
        type="button"
        @click="
          act(
            markMessages(
              fresh.map(({ id }) => id),
              'heard',
            ),
            null,
          )
        "
      >
        Mark all heard
      </button>
    </header>
    <EmptyLine v-if="denied" :text="denied" />
    <EmptyLine v-else-if="error" text="The messages could not be read.">
      <v-btn @click="readAgain()">Read them again</v-btn>
    </EmptyLine>
    <EmptyLine
      v-else-if="messages && messages.length === 0"
      text="No messages. The next one appears here by itself."
    />
    <ul
      v-else
      ref="list"
      role="listbox"
      tabindex="0"
      aria-label="Messages, latest first"
      @keydown.down.prevent="step(1)"
      @keydown.up.prevent="step(-1)"
      @keydown.left.prevent="player[0]?.move($event.shiftKey ? -5 : -1)"
      @keydown.right.prevent="player[0]?.move($event.shiftKey ? 5 : 1)"
    >
      <li
        v-for="message in here"
        :key="message.id"
        role="option"
        :aria-selected="message.id === chosenId"
        :class="{ chosen: message.id === chosenId }"
        @click="chosenId = message.id"
      >
        <div class="row">
          <Shape :name="messageShapes[message.state]" />
          <span class="who" :class="{ fresh: message.state === 'new' }" :title="nameOf(message)">{{
            nameOf(message)
          }}</span>
          <span class="mono when">{{ moment(message.at) }}</span>
          <span class="mono second digits">{{
            message.callerName !== null && message.from !== '' ? formatNumber(message.from) : ''
          }}</span>
          <span class="length">
            <SmallWave
              v-if="message.sound && message.id !== chosenId"
              :peaks="message.sound.peaks"
              :seconds="message.seconds"
            />
            <span class="mono">{{ span(message.seconds * 1000) }}</span>
          </span>
        </div>
        <div v-if="message.id === chosenId" class="open" @click.stop>
          <SoundPlayer
            v-if="message.sound"
            ref="player"
            :src="`/api/messages/${message.id}/sound`"
            :peaks="message.sound.peaks"
            :seconds="message.sound.seconds"
            :label="`the message of ${nameOf(message)}`"
            @heard="heard(message)"
          />
          <p v-else class="second small">Its sound has not come.</p>
          <!-- Always there: what stands under it is not moved while somebody presses it. -->
          <p class="second small">
            <template v-if="message.forwardedBy">Sent on by {{ message.forwardedBy }}. </template>
            {{
              message.heardBy
                ? `First heard by ${message.heardBy}, ${moment(message.heardAt!)}.`
                : 'Nobody has heard it yet.'
            }}
          </p>
          <div v-if="mayAct" class="buttons">
            <v-btn v-if="message.from !== ''" class="small-button" @click="callCaller(message)"
              >Call back<KeyCap>C</KeyCap></v-btn
            >
            <v-btn v-if="others.length > 0" class="small-button" @click="forwarding = !forwarding"
              >Send on</v-btn
            >
            <v-btn class="small-button" @click="keep(message)"
              >{{ message.state === 'kept' ? 'Keep no longer' : 'Keep' }}<KeyCap>K</KeyCap></v-btn
            >
          </div>
          <v-autocomplete
            v-if="forwarding"
            :items="others.map(({ id, name }) => ({ value: id, title: name }))"
            aria-label="Into which box"
            placeholder="Into which box"
            auto-select-first
            autofocus
            @update:model-value="forward(message, $event)"
          />
          <div class="foot">
            <router-link v-if="session.mayRead" :to="`/calls/${message.callId}`" class="small"
              >The call and its path</router-link
            >
            <span v-if="mayAct" class="links">
              <button
                class="link small"
                type="button"
                @click="mark(message, message.state === 'new' ? 'heard' : 'new')"
              >
                {{ message.state === 'new' ? 'Mark heard' : 'Mark new' }}
              </button>
              <button class="link small" type="button" @click="remove(message)">Delete</button>
            </span>
          </div>
        </div>
      </li>
      <li v-if="hasMore" class="more">
        <button class="link" type="button" @click="more()">Show earlier ones</button>
      </li>
    </ul>
    <div v-if="deleted.length > 0" class="deleted">
      <span
        ><b>{{ deleted.length === 1 ? '1 message deleted' : `${deleted.length} messages deleted` }}</b
        >{{
          deleted.length === 1 ? `, ${nameOf(deleted[0]!)}, ${span(deleted[0]!.seconds * 1000)}` : ''
        }}</span
      >
      <button v-if="mayAct" class="link" type="button" @click="bringBack(deleted.map(({ id }) => id))">
        Bring back
      </button>
    </div>
    <p v-if="deleted.length > 0" class="second small note">
      They can be brought back until midnight. Who heard, sent on or deleted one is in the history of the box.
    </p>
    <p class="sr" aria-live="polite">
      {{ chosen ? `${messageWords[chosen.state]}, ${nameOf(chosen)}` : '' }}
    </p>
  </section>
</template>

<style scoped>
.messages {
  display: flex;
  flex-direction: column;
  min-height: 0;
  overflow: auto;
}
header {
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding: 12px 16px 8px;
  border-bottom: 1px solid var(--rule2);
}
.all {
  margin-left: auto;
}
li {
  border-bottom: 1px solid var(--rule);
  cursor: default;
}
ul {
  outline-offset: -2px;
}
.row {
  display: grid;
  grid-template-columns: 14px 1fr auto;
  gap: 0 6px;
  align-items: center;
  padding: 5px 16px;
  min-height: 47px;
}
.row > :first-child {
  grid-row: 1;
}
.who,
.digits {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.who.fresh {
  font-weight: 600;
}
.digits {
  grid-column: 2;
}
.length {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
  align-items: end;
}
.chosen {
  background: var(--sel);
}
.open {
  padding: 2px 16px 10px 36px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.when {
  text-align: right;
}
.links {
  display: flex;
  gap: 14px;
}
.foot {
  display: flex;
  justify-content: space-between;
}
.more {
  padding: 8px 16px;
}
.deleted {
  background: var(--wash);
  padding: 8px 16px;
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.deleted b {
  color: var(--plum);
}
.note {
  padding: 8px 16px;
}
.sr {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
</style>
