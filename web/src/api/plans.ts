import type { PlansContract } from '@night-bell/core/contracts/plans';
import { itemApi } from './items.ts';

export const planApi = itemApi<PlansContract>('plan', '/api/plans');
