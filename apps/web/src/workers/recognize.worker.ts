import { expose } from 'comlink';
import { createRecognizer } from './createRecognizer.ts';

expose(createRecognizer());
