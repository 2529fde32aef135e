import { array, string, type InferType } from 'yup';
import { fault, strictObject } from './strictObject.ts';

const folder = () =>
  string()
    .required(fault('a folder'))
    .max(4096, fault('a path of at most 4,096 characters'))
    .matches(/^\//, fault('an absolute path, beginning with /'));

/** Where masters are looked for and where renditions go; what is left out stays as it is. */
export const foldersSchema = strictObject({
  mediaFolders: array()
    .of(folder())
    .min(1, fault('at least one media folder'))
    .max(50, fault('at most 50 media folders'))
    .optional(),
  outputFolder: folder().optional(),
}).required(fault('folders'));

export type FoldersRequest = InferType<typeof foldersSchema>;
