// Does one file of a batch after the other in a thread of its own; what goes wrong with one is told, and does not end the batch.
import { worker } from 'workerpool';
import { doBatchFile, readBatch, type BatchFile } from '../src/index.ts';

worker({
  file: (file: BatchFile, settings: unknown) => doBatchFile(file, readBatch(settings))
});
