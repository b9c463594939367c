/** Outside calculations as they are asked: services over HTTP, workbooks by a spreadsheet engine. Used by the server and the command line. */
export type { Answered, AskFailure } from './answered';
export { ask } from './ask';
export { listFunctions } from './ask-service';
export type { ServiceFunction } from './protocol';
export { listServices } from './services';
export { computeSpreadsheet, type SpreadsheetQuestion } from './spreadsheet';
