/**
 * Every container Linstock writes, by the name recipes give it, those of sound alone last. What each can do is its
 * definition beside this file.
 */
export const CONTAINERS = ['mp4', 'mov', 'matroska', 'webm', 'm4a', 'mp3', 'ogg', 'flac', 'wav', 'aiff'] as const;
export type Container = (typeof CONTAINERS)[number];
