/** npm run calculator: the stand-in for a calculation service, on loopback. PORT (4180), CALCULATOR_SECRET. */
import { createCalculator } from './server';

const port = Number(process.env['PORT'] ?? 4180);
const { server } = createCalculator(process.env['CALCULATOR_SECRET']);
server.on('error', (problem) => {
  console.error(`The calculator cannot listen on port ${port}: ${problem.message}`);
  process.exitCode = 1;
});
server.listen(port, '127.0.0.1', () => {
  console.log(`The calculator answers at http://127.0.0.1:${port}`);
});
