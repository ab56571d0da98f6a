// npm run demo: installs, builds, and starts the application with its samples.
import { installPackages, run, runPackage } from './setup.mjs';

installPackages();
runPackage('vite', ['build', '--logLevel', 'warn']);
run(process.execPath, ['scripts/server.mjs']);
