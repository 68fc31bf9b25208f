import Joi from 'joi';

export interface AgentStateBody {
  state: 'available' | 'away' | 'signedOut' | 'wrapUpOver';
  reason?: string;
}

/** What an agent, or a supervisor for them, may say of an agent's state. */
export const agentState = Joi.object<AgentStateBody>({
  state: Joi.string().valid('available', 'away', 'signedOut', 'wrapUpOver').required(),
  reason: Joi.string().trim().min(1).max(40),
});

/** `asUsual`: the agent signs in themselves, and begins as their settings say. */
export function stateEvent(
  personId: string,
  state: AgentStateBody['state'],
  reason?: string,
  asUsual = false,
) {
  switch (state) {
    case 'available':
      return { kind: 'agentSignedIn', personId, ...(asUsual ? { asUsual } : {}) } as const;
    case 'away':
      return { kind: 'agentAway', personId, reason: reason ?? 'break' } as const;
    case 'signedOut':
      return { kind: 'agentSignedOut', personId } as const;
    case 'wrapUpOver':
      return { kind: 'wrapUpEnded', personId } as const;
  }
}
