<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import {
  type Codec,
  codecs,
  codecWords,
  type Transport,
  transports,
} from '@night-bell/core/phones/catalogue';
import type { TrunkDraft, TrunkView } from '@night-bell/core/contracts/trunks';
import type { PersonRow } from '../../api/client.ts';
import { readPage } from '../../api/pages.ts';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import FlagLine from '../../kit/FlagLine.vue';
import FormLine from '../../kit/FormLine.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import LedgerField from '../../kit/LedgerField.vue';
import TextLine from '../../kit/TextLine.vue';
import ThingField from '../../kit/ThingField.vue';
import { useLive } from '../../shell/live.ts';
import { useSetUp } from '../../shell/set-up.ts';
import PricesField from './PricesField.vue';
import TrunkLine from './TrunkLine.vue';
import { trunkArea, usualPort } from './words.ts';

/** A line to a provider. Its secret is typed and never read. */
const props = defineProps<{ item: TrunkView | null }>();
const emit = defineEmits<{ close: []; made: [item: TrunkView] }>();
const live = useLive();
const area = trunkArea(useSetUp().nameOf);
const now = computed(() => live.trunks.get(props.item?.id ?? ''));
const ways = transports.map((value) => ({ value, title: value.toUpperCase() }));

/** Agents whose outside number goes over it. */
const reached = ref<PersonRow[]>([]);
watch(
  () => props.item,
  async (trunk) => {
    if (trunk === null) return;
    const asked = { reachedOver: trunk.id, sort: 'name' };
    reached.value = await readPage<PersonRow>('/api/people', asked).then(
      ({ rows }) => rows,
      () => reached.value,
    );
  },
  { immediate: true },
);

/** The usual port goes with the transport, unless another was typed. */
function changeTransport(draft: TrunkDraft, to: Transport): void {
  if (draft.port === usualPort[draft.transport]) draft.port = usualPort[to];
  draft.transport = to;
}
function allow(draft: TrunkDraft, codec: Codec, on: boolean): void {
  draft.codecs = on ? [...draft.codecs, codec] : draft.codecs.filter((each) => each !== codec);
}
function secretHint(): string {
  if (props.item?.hasSecret !== true) return 'As the provider gave it to you.';
  if (props.item.secretWeak)
    return 'The one kept is easily guessed: short, or like the account. Ask the provider for a better one.';
  if (props.item.secretShared) return 'The one kept is used elsewhere here too. Each line deserves its own.';
  return 'One is kept, sealed. Type another to replace it.';
}
</script>

<template>
  <ItemSheet
    :area="area"
    :item="item"
    :more-users="reached.length"
    @close="emit('close')"
    @made="emit('made', $event)"
  >
    <template v-if="now" #state>
      <b class="mono">{{ now.inUse }}</b> of <b class="mono">{{ item?.channels }}</b> in use
    </template>
    <template #default="{ draft, readonly }">
      <FormLine
        v-slot="{ id }"
        field="host"
        :also="['port']"
        label="Provider"
        hint="Stand-ins: provider.example, strict.provider.example, flaky.provider.example."
      >
        <div class="pair">
          <v-text-field :id="id" v-model="draft.host" class="mono" :readonly="readonly" />
          <v-text-field v-model.number="draft.port" aria-label="Port" class="mono" :readonly="readonly" />
        </div>
      </FormLine>
      <ChoiceLine
        :model-value="draft.transport"
        field="transport"
        label="Transport"
        :items="ways"
        @update:model-value="changeTransport(draft, $event)"
      />
      <TextLine v-model="draft.account" field="account" label="Account" mono />
      <FlagLine v-model="draft.registers" label="We register there with a secret" />
      <TextLine
        v-if="draft.registers && !readonly"
        v-model="draft.secret"
        field="secret"
        label="Secret"
        mono
        password
        emptied="undefined"
        :placeholder="item?.hasSecret ? 'kept' : ''"
        :hint="secretHint()"
      />
    </template>
    <template #sections="{ draft }">
      <section>
        <TextLine
          v-model="draft.channels"
          field="channels"
          label="Channels"
          figure
          hint="Calls at once, in and out. The exchange never dials beyond them."
        />
        <FormLine
          v-slot="{ id, readonly }"
          field="numberId"
          label="Caller ID"
          :hint="
            draft.numberId === null
              ? 'A campaign shows its own, a phone its own, a call sent on the number that was dialled.'
              : 'Every call out over this trunk shows this number, whatever it has.'
          "
        >
          <ThingField
            :id="id"
            v-model="draft.numberId"
            label="Number shown"
            :kinds="['number']"
            none="as the call has it"
            :readonly="readonly"
          />
        </FormLine>
        <LedgerField label="Codecs">
          <div class="codecs">
            <FlagLine
              v-for="codec in codecs"
              :key="codec"
              :model-value="draft.codecs.includes(codec)"
              :label="codecWords[codec]"
              @update:model-value="allow(draft, codec, $event)"
            />
          </div>
          <p v-if="draft.codecs.length === 0" class="small second">None chosen: any may be used.</p>
        </LedgerField>
        <FlagLine
          v-model="draft.behindRouter"
          label="We stand behind a router: the provider answers where our messages come from"
        />
      </section>
      <section>
        <h3>Price a minute</h3>
        <PricesField v-model="draft.prices" />
      </section>
    </template>
    <template #tab-line="{ item: shown, open }"
      ><TrunkLine :trunk="shown" @secret="open('secret')"
    /></template>
    <template #users>
      <section v-if="reached.length > 0">
        <h3>Agents reached over it</h3>
        <ul>
          <li v-for="person in reached" :key="person.id">
            <router-link :to="`/people/${person.id}`">{{ person.name }}</router-link>
          </li>
        </ul>
      </section>
    </template>
  </ItemSheet>
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
</style>
