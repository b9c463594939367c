/** Thread shell of the server's calculations: does one and is ended. Started, never imported. */
import { parentPort } from 'node:worker_threads';
import { OPERATIONS, type Argument, type OperationName } from './operations';

export interface CalculationMessage<N extends OperationName = OperationName> {
  readonly name: N;
  readonly argument: Argument<N>;
}

const port = parentPort;
if (!port) throw new Error('Bug: this file runs only as a worker thread');

port.once('message', ({ name, argument }: CalculationMessage) => {
  // The name decides what the argument is.
  const operation = OPERATIONS[name] as (argument: unknown) => unknown;
  void Promise.resolve(operation(argument)).then((outcome) => {
    port.postMessage(outcome);
  });
});
