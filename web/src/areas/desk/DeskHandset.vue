<script setup lang="ts">
import { computed } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import type { CallLive } from '../../api/client.ts';
import KeyCap from '../../kit/KeyCap.vue';
import Shape from '../../kit/Shape.vue';
import { span } from '@night-bell/core/story/span';
import PauseRecording from '../recordings/PauseRecording.vue';
import { useLive } from '../../shell/live.ts';

/** The call at hand: who it is, how it stands, and what can be done with it now. */
const props = defineProps<{ call: CallLive; rings: boolean; told: boolean; here: boolean; phone: string }>();
defineEmits<{ answer: []; decline: []; hangUp: []; handOver: []; takeBack: [] }>();
const live = useLive();

const number = computed(() =>
  formatNumber(props.call.direction === 'outbound' ? props.call.to : props.call.from),
);
const since = computed(() => span(live.now - (props.told ? props.call.consulted!.since : props.call.since)));
/** This caller waits while a colleague hears of them from here. */
const announced = computed(() => (props.told ? null : props.call.consulted));
const waits = computed(() => {
  const to = announced.value;
  if (to === null) return null;
  return { how: to.rings ? `${to.name} rings` : `you tell ${to.name}`, for: span(live.now - to.since) };
});
</script>

<template>
  <section class="handset" :class="rings ? 'ringing' : 'talking'" aria-label="The call at hand">
    <Shape :name="rings ? 'ringing' : 'talking'" />
    <div>
      <p v-if="rings && (call.shows?.length ?? 0) > 0" class="shows">{{ call.shows.join(' / ') }}</p>
      <h2>{{ call.callerName ?? number }}</h2>
      <p v-if="waits" class="second">
        <span class="mono">{{ number }}</span> waits while {{ waits.how }}
        <span class="mono">{{ waits.for }}</span>
      </p>
      <p v-else class="second">
        <span class="mono">{{ number }}</span>
        {{ told ? `from ${call.consulted!.byName}, who` : '' }}
        {{ rings ? 'rings' : told ? 'tells you' : 'talking' }}
        <span class="mono">{{ since }}</span>
        <template v-if="!here && rings">, on your {{ phone }}</template>
      </p>
      <PauseRecording v-if="!rings && !told" :call="call" />
    </div>
    <div class="buttons">
      <template v-if="rings">
        <v-btn v-if="here" variant="flat" color="primary" @click="$emit('answer')"
          >Answer<KeyCap>A</KeyCap></v-btn
        >
        <v-btn @click="$emit('decline')">Decline<KeyCap>D</KeyCap></v-btn>
      </template>
      <template v-else-if="announced">
        <v-btn variant="flat" color="primary" @click="$emit('hangUp')">Put through<KeyCap>H</KeyCap></v-btn>
        <v-btn @click="$emit('takeBack')">Back to the caller<KeyCap>B</KeyCap></v-btn>
      </template>
      <template v-else>
        <v-btn v-if="call.direction === 'inbound' && !told" @click="$emit('handOver')"
          >Hand over<KeyCap>O</KeyCap></v-btn
        >
        <v-btn @click="$emit('hangUp')">Hang up<KeyCap>H</KeyCap></v-btn>
      </template>
    </div>
  </section>
</template>
