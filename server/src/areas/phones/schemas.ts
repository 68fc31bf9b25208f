import Joi from 'joi';
import { codecs, deviceModels, transports } from '@night-bell/core/phones/catalogue';
import { keyActions, type LineKey } from '@night-bell/core/phones/line-keys';
import type { PhoneSecret } from './secrets.ts';
import type { PhoneView } from './store.ts';

export const addressView = Joi.object({
  street: Joi.string().required(),
  unit: Joi.string().allow('').required(),
  city: Joi.string().required(),
  region: Joi.string().required(),
  postalCode: Joi.string().required(),
  country: Joi.string().required(),
});

export const modelView = Joi.string().valid(...deviceModels.map((model) => model.id));
export const transportView = Joi.string().valid(...transports);
export const codecsView = Joi.array().items(Joi.string().valid(...codecs));

const lineKeyView = Joi.object<LineKey, true>({
  position: Joi.number().integer().required(),
  label: Joi.string().allow('').required(),
  personId: Joi.string().required(),
  alertAfter: Joi.number().integer().allow(null).required(),
  callerSeconds: Joi.number().integer().allow(null).required(),
  press: Joi.object<LineKey['press'], true>({
    quiet: Joi.string()
      .valid(...keyActions.quiet)
      .required(),
    ringing: Joi.string()
      .valid(...keyActions.ringing)
      .required(),
    inCall: Joi.string()
      .valid(...keyActions.inCall)
      .required(),
  }).required(),
});

export const phoneView = Joi.object<PhoneView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  kind: Joi.string().valid('softphone', 'desk', 'cordless', 'browser', 'outside').required(),
  model: modelView.allow(null).required(),
  account: Joi.string().allow('').required(),
  transport: transportView.required(),
  codecs: codecsView.required(),
  timeZone: Joi.string().allow(null).required(),
  numberId: Joi.string().allow(null).required(),
  dialTrunkId: Joi.string().allow(null).required(),
  home: Joi.boolean().required(),
  emergencyAddress: addressView.allow(null).required(),
  lineKeys: Joi.array().items(lineKeyView).required(),
  e164: Joi.string().allow(null).required(),
  trunkId: Joi.string().allow(null).required(),
});

export const phoneSecretView = Joi.object<PhoneSecret, true>({
  account: Joi.string().required(),
  registrationSecret: Joi.string().required(),
  enrolmentCode: Joi.string().required(),
});
