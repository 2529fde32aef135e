/** Every container Linstock writes, by the name recipes give it. What each can do is its definition beside this file. */
export const CONTAINERS = ['mp4', 'webm'] as const;
export type Container = (typeof CONTAINERS)[number];
