import type { StepKindName } from '../model/plan.ts';
import type { StepKind } from './step-kind.ts';
import { end } from './steps/end.ts';
import { extension } from './steps/extension.ts';
import { fax } from './steps/fax.ts';
import { goTo } from './steps/go-to.ts';
import { optOut } from './steps/opt-out.ts';
import { otherPhones } from './steps/other-phones.ts';
import { hours } from './steps/hours.ts';
import { keys } from './steps/keys.ts';
import { outside } from './steps/outside.ts';
import { plan } from './steps/plan.ts';
import { callBack, queue } from './steps/queue.ts';
import { ring } from './steps/ring.ts';
import { rules } from './steps/rules.ts';
import { customerNumber } from './steps/customer-number.ts';
import { owner } from './steps/owner.ts';
import { recording } from './steps/recording.ts';
import { record } from './steps/record.ts';
import { askStep } from './steps/ask.ts';
import { bot } from './steps/bot.ts';
import { whenLeft } from './steps/when-left.ts';
import { afterTalk } from './steps/after-talk.ts';
import { survey } from './steps/survey.ts';
import { textBack } from './steps/text-back.ts';
import { region } from './steps/region.ts';
import { room } from './steps/room.ts';
import { say } from './steps/say.ts';
import { comeBack } from './steps/come-back.ts';
import { ringGroup } from './steps/ring-group.ts';
import { ringSeveral } from './steps/ring-several.ts';
import { serviceCode } from './steps/service-code.ts';
import { takePart } from './steps/take-part.ts';
import { voicemailMenu } from './steps/voicemail-menu.ts';
import { voicemail } from './steps/voicemail.ts';

/** The only list of kinds of steps. What goes in and comes out of a kind is of that kind: the list forgets it. */
export const stepKinds = {
  ...{
    say,
    keys,
    rules,
    region,
    textBack,
    afterTalk,
    survey,
    recording,
    whenLeft,
    ask: askStep,
    bot,
    voicemailMenu,
    record,
    owner,
    customerNumber,
    hours,
    extension,
    optOut,
    ring,
    otherPhones,
    queue,
    callBack,
    voicemail,
    ringSeveral,
    ringGroup,
    comeBack,
    serviceCode,
    takePart,
    outside,
    room,
    fax,
    goTo,
    plan,
    end,
  },
} as unknown as Readonly<Record<StepKindName, StepKind>>;
