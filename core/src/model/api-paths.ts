/** Paths of routes that client and server name alike. Apart from their contracts, whose schemas no page needs. */
export const queueFitPath = '/api/queues/fit';
export const queueHoursPath = '/api/queues/:id/hours';
export const queueMeasuredPath = '/api/queues/:id/measured';
export const groupMembersPath = '/api/ring-groups/:id/members';
export const ownGroupsPath = '/api/desk/ring-groups';
