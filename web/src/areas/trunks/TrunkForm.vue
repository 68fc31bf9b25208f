<script setup lang="ts">
import { ref, watch } from 'vue';
import { codecs, codecWords, type Codec } from '@night-bell/core/phones/catalogue';
import { api, ask, ifMatch, type Trunk } from '../../api/client.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import FormEnd from '../../kit/FormEnd.vue';
import LedgerField from '../../kit/LedgerField.vue';
import ThingField from '../../kit/ThingField.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { draftOf, showTrunk, type TrunkDraft, trunkWords } from './words.ts';

/** What of a trunk can be changed. The secret is written only. */
const props = defineProps<{ trunk: Trunk | null }>();
const emit = defineEmits<{ close: []; made: [trunk: Trunk] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const show = showTrunk(setUp.nameOf);
const secret = ref('');
const transports = ['udp', 'tcp', 'tls'].map((value) => ({ value, title: value.toUpperCase() }));
const usualPort = { udp: 5060, tcp: 5060, tls: 5061 };

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<TrunkDraft>(async (value, version) => {
    const body = { ...value, ...(secret.value === '' ? {} : { secret: secret.value }) };
    if (props.trunk === null) {
      const made = await ask(api.POST('/api/trunks', { body }));
      await setUp.load();
      notices.say(`${made.name} is made.`);
      emit('made', made);
      return;
    }
    const params = { path: { id: props.trunk.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/trunks/{id}', { params, body }));
    secret.value = '';
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.trunk.id);
  });
watch(
  () => props.trunk,
  (trunk) => {
    if (!changed.value) begin(draftOf(trunk), trunk?.version ?? 0);
  },
  { immediate: true },
);

/** The usual port goes with the transport, unless another was typed. */
function transportChanged(to: 'udp' | 'tcp' | 'tls'): void {
  const now = draft.value!;
  if (now.port === usualPort[now.transport]) now.port = usualPort[to];
  now.transport = to;
}
function allow(codec: Codec, on: boolean): void {
  const now = draft.value!.codecs;
  draft.value!.codecs = on ? [...now, codec] : now.filter((each) => each !== codec);
}
</script>

<template>
  <template v-if="draft">
    <ConflictNote
      v-if="conflict"
      :conflict="conflict"
      :mine="draft"
      :words="trunkWords"
      :show="show"
      @mine="keepMine"
      @theirs="takeTheirs"
    />
    <form @submit.prevent="save">
      <section>
        <LedgerField label="Name" for="trunk-name" :fault="faults['/name']">
          <v-text-field
            id="trunk-name"
            v-model="draft.name"
            :readonly="!session.mayEdit"
            :autofocus="trunk === null"
            autocomplete="off"
          />
        </LedgerField>
        <LedgerField
          label="Provider"
          for="trunk-host"
          :fault="faults['/host'] ?? faults['/port']"
          hint="Stand-ins: provider.example, strict.provider.example, flaky.provider.example."
        >
          <div class="pair">
            <v-text-field id="trunk-host" v-model="draft.host" class="mono" :readonly="!session.mayEdit" />
            <v-text-field
              v-model.number="draft.port"
              aria-label="Port"
              class="mono port"
              :readonly="!session.mayEdit"
            />
          </div>
        </LedgerField>
        <LedgerField label="Transport" for="trunk-transport" :fault="faults['/transport']">
          <v-select
            id="trunk-transport"
            :model-value="draft.transport"
            :items="transports"
            :readonly="!session.mayEdit"
            @update:model-value="transportChanged"
          />
        </LedgerField>
        <LedgerField label="Account" for="trunk-account" :fault="faults['/account']">
          <v-text-field
            id="trunk-account"
            v-model="draft.account"
            class="mono"
            :readonly="!session.mayEdit"
            autocomplete="off"
          />
        </LedgerField>
        <v-checkbox
          v-model="draft.registers"
          :readonly="!session.mayEdit"
          label="We register there with a secret"
        />
        <LedgerField
          v-if="draft.registers && session.mayEdit"
          label="Secret"
          for="trunk-secret"
          :fault="faults['/secret']"
          :hint="
            trunk?.hasSecret
              ? trunk.secretWeak
                ? 'The one kept is easily guessed: short, or like the account. Ask the provider for a better one.'
                : trunk.secretShared
                  ? 'The one kept is used elsewhere here too. Each line deserves its own.'
                  : 'One is kept, sealed. Type another to replace it.'
              : 'As the provider gave it to you.'
          "
        >
          <v-text-field
            id="trunk-secret"
            v-model="secret"
            class="mono"
            type="password"
            :placeholder="trunk?.hasSecret ? 'kept' : ''"
            autocomplete="new-password"
          />
        </LedgerField>
      </section>
      <section>
        <LedgerField
          label="Channels"
          for="trunk-channels"
          :fault="faults['/channels']"
          hint="Calls at once, in and out. The exchange never dials beyond them."
        >
          <v-text-field
            id="trunk-channels"
            v-model.number="draft.channels"
            class="mono"
            type="number"
            :readonly="!session.mayEdit"
          />
        </LedgerField>
        <LedgerField
          label="Caller ID"
          for="trunk-caller-id"
          :fault="faults['/numberId']"
          :hint="
            draft.numberId === null
              ? 'A campaign shows its own, a phone its own, a call sent on the number that was dialled.'
              : 'Every call out over this trunk shows this number, whatever it has.'
          "
        >
          <ThingField
            id="trunk-caller-id"
            v-model="draft.numberId"
            label="Number shown"
            :kinds="['number']"
            none="as the call has it"
            :readonly="!session.mayEdit"
          />
        </LedgerField>
        <LedgerField label="Codecs">
          <div class="codecs">
            <v-checkbox
              v-for="codec in codecs"
              :key="codec"
              :model-value="draft.codecs.includes(codec)"
              :label="codecWords[codec]"
              :readonly="!session.mayEdit"
              @update:model-value="allow(codec, $event === true)"
            />
          </div>
          <p v-if="draft.codecs.length === 0" class="small second">None chosen: any may be used.</p>
        </LedgerField>
        <v-checkbox
          v-model="draft.behindRouter"
          :readonly="!session.mayEdit"
          label="We stand behind a router: the provider answers where our messages come from"
        />
      </section>
      <section>
        <h3>Price a minute</h3>
        <ul v-if="draft.prices.length > 0">
          <li v-for="(price, index) in draft.prices" :key="index">
            <input
              v-model="price.prefix"
              class="mono"
              :aria-label="`Prefix ${index + 1}`"
              placeholder="all others"
              :readonly="!session.mayEdit"
            />
            <input
              v-model="price.perMinute"
              class="mono right"
              :aria-label="`Price of ${price.prefix || 'all others'}`"
              placeholder="0.0100"
              :readonly="!session.mayEdit"
            />
            <button
              v-if="session.mayEdit"
              type="button"
              :aria-label="`Take ${price.prefix || 'all others'} out`"
              @click="draft.prices.splice(index, 1)"
            >
              ×
            </button>
            <p
              v-if="faults[`/prices/${index}/prefix`] ?? faults[`/prices/${index}/perMinute`]"
              class="fault-text small"
            >
              {{ faults[`/prices/${index}/prefix`] ?? faults[`/prices/${index}/perMinute`] }}
            </p>
          </li>
        </ul>
        <p v-else class="second">None. What calls cost cannot be said.</p>
        <div v-if="session.mayEdit" class="buttons">
          <v-btn @click="draft.prices.push({ prefix: draft.prices.length === 0 ? '' : '+', perMinute: '' })"
            >Another price</v-btn
          >
        </div>
        <FormEnd
          :general="general"
          :saving="saving"
          :changed="changed || secret !== ''"
          :make="trunk === null ? 'Make this trunk' : null"
          @leave="trunk === null ? emit('close') : ((secret = ''), begin(draftOf(trunk), trunk.version))"
        />
      </section>
    </form>
  </template>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 64px;
  gap: 8px;
}
.codecs {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
li {
  display: grid;
  grid-template-columns: 1fr 96px 24px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 28px;
}
li p {
  grid-column: 1 / -1;
}
li input {
  border: 0;
  background: none;
  color: inherit;
  min-width: 0;
  height: 24px;
}
li button {
  border: 0;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  font-size: 15px;
}
</style>
