import { mayDirect, type Role } from '../model/roles.ts';

/** Who may work at a plan beside administrators: those who look after one team, and whether they may publish it too. */
export interface PlanRights {
  /** Null for nobody else. */
  teamId: string | null;
  publishes: boolean;
}

interface Who {
  role: Role;
  looksAfter: readonly string[];
}

/** Whether this person may change the draft. */
export function mayEditPlan(who: Who, { teamId }: PlanRights): boolean {
  return who.role === 'administrator' || (teamId !== null && mayDirect(who, teamId));
}

/** Whether this person may have callers meet the draft, now or later. */
export function mayPublishPlan(who: Who, rights: PlanRights): boolean {
  return who.role === 'administrator' || (rights.publishes && mayEditPlan(who, rights));
}
