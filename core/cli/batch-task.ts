// Does one file of a batch after the other in a thread of its own; what goes wrong with one is told, and does not end the batch.
import { worker } from 'workerpool';
import { doBatchFile } from '../src/index.ts';

worker({ file: doBatchFile });
