<script setup lang="ts">
import type { RuleView } from '@night-bell/core/contracts/dialling-rules';
import type { RuleWarning } from '../../api/client.ts';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import OrderedField from '../../kit/OrderedField.vue';
import SentenceField from '../../kit/SentenceField.vue';
import Shape from '../../kit/Shape.vue';
import TextLine from '../../kit/TextLine.vue';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import RuleTester from './RuleTester.vue';
import { ruleArea, useWords, warningWords } from './words.ts';

/** One dialling rule, tried while it is written. */
defineProps<{ item: RuleView | null; warnings: RuleWarning[] }>();
const emit = defineEmits<{ close: []; made: [item: RuleView] }>();
const setUp = useSetUp();
const session = useSession();
const uses = Object.entries(useWords).map(([value, title]) => ({ value, title }));
</script>

<template>
  <ItemSheet :area="ruleArea(setUp.nameOf)" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template #above>
      <section v-if="warnings.length > 0">
        <p v-for="warning in warnings" :key="warning.kind" class="fault-text">
          <Shape name="fault" /> {{ warningWords(warning, setUp.nameOf) }}
        </p>
      </section>
    </template>
    <template #default="{ draft }">
      <TextLine
        v-model="draft.pattern"
        field="pattern"
        label="Pattern"
        mono
        placeholder="NxxNxxxxxx"
        hint="x any digit, N 2 to 9, [2-47] a set, a final dot repeats. The whole must fit."
      />
      <FormSentence :fields="['strip', 'prepend', '']">
        Leave out the first
        <SentenceField v-model="draft.strip" field="strip" label="How many symbols are left out" :size="3" />,
        put
        <SentenceField
          v-model="draft.prepend"
          field="prepend"
          label="What is put in front"
          words
          placeholder="nothing"
          :size="7"
        />
        in front.
      </FormSentence>
    </template>
    <template #sections="{ draft }">
      <section>
        <h3>Over <span class="second small">the next when one is full or fails</span></h3>
        <OrderedField
          v-model="draft.trunkIds"
          :items="setUp.trunks ?? []"
          :name-of="setUp.nameOf"
          label="Add a trunk"
          empty="Any trunk there is."
        />
      </section>
      <section>
        <ChoiceLine v-model="draft.use" field="use" label="For" :items="uses" />
        <ChoiceLine
          v-if="draft.use !== 'campaigns'"
          v-model="draft.teamIds"
          field="teamIds"
          label="Of teams"
          many
          placeholder="all"
          :items="setUp.teams.map(({ id, name }) => ({ value: id, title: name }))"
        />
      </section>
    </template>
    <template #trial="{ draft }">
      <section v-if="session.mayOperate">
        <h3>Try it as it is written here</h3>
        <RuleTester :draft="item === null ? draft : { ...draft, id: item.id }" />
      </section>
    </template>
  </ItemSheet>
</template>

<style scoped>
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
</style>
