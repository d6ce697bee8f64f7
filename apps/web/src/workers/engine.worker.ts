import { expose } from 'comlink';
import { createEngine } from './createEngine.ts';

expose(createEngine());
