import Joi from 'joi';
import { formatNames } from '../../formats/registry.ts';
import { type FileOperation } from '../operation.ts';

/** A file's mesh as a new part; the entry keeps the mesh itself. */
export const bringInFile: FileOperation = {
  kind: 'file',
  id: 'bring-in',
  bench: 1,
  name: 'Bring in a file',
  purpose: `Read a mesh file (${formatNames}) as a reference or as a cage.`,
  icon: 'DocumentImport',
  key: 'Z',
  needs: 'A mesh file.',
  params: Joi.object({
    file: Joi.string().allow('').default('').label('File'),
    as: Joi.string()
      .valid('reference', 'cage')
      .default('cage')
      .label('Use it as')
      .meta({ labels: { reference: 'Reference', cage: 'Cage' } }),
    unit: Joi.number().greater(0).default(1).label('Size of a unit').unit('mm'),
    upAxis: Joi.string().valid('Y', 'Z').default('Y').label('Up axis'),
    weld: Joi.boolean().default(true).label('Weld vertices at the same place')
  })
};
