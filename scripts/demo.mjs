// npm run demo: installs, builds, and starts the application with its samples.
import { installPackages, run } from './setup.mjs';

installPackages();
run('npx', ['vite', 'build', '--logLevel', 'warn']);
run(process.execPath, ['scripts/server.mjs']);
