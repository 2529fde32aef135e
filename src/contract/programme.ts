import { array, boolean, string } from 'yup';
import { fault, strictObject } from './strictObject.ts';

/** Paths that can be pasted at once. */
export const MOST_PATHS = 10_000;

/** What a programme is taken in with. */
export const programmeRequestSchema = strictObject({
  path: string().required(fault('the path of a file in a media folder')),
}).required(fault('a path'));

/** Where a programme's master is now. */
export const repointRequestSchema = strictObject({
  path: string().required(fault('the path of a file in a media folder')),
  /** Take the file even if it is not the one that was looked at. */
  replace: boolean().default(false),
}).required(fault('a path'));

/** Files and folders to take in. */
export const takeInRequestSchema = strictObject({
  paths: array()
    .of(string().required(fault('a path')))
    .min(1, fault('at least one path'))
    .max(MOST_PATHS, fault(`at most ${MOST_PATHS} paths`))
    .required(fault('a list of paths')),
  /** Look into folders inside the folders too. */
  subfolders: boolean().default(false),
}).required(fault('a list of paths'));

/** Forgotten programmes to be taken away for good. */
export const removeForgottenSchema = strictObject({
  ids: array()
    .of(string().required(fault('an id')))
    .min(1, fault('at least one id'))
    .required(fault('a list of ids')),
}).required(fault('a list of ids'));

/** A report of taking in that was read. */
export const dismissSchema = strictObject({
  dismissed: boolean().required(fault('true')).oneOf([true], fault('true')),
}).required(fault('an object'));
