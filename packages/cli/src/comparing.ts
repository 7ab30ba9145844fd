import { parentPort, workerData } from "node:worker_threads";
import { type Comparison, compareFile, examinePart, type Result, type ReturnedFile } from "@hillcrest/core";

/** What is compared, and what came of it, between the command and the thread that it can end. */
export type ToCompare = Omit<ReturnedFile, "build">;
export type Compared = Result<Comparison>;

const question = workerData as ToCompare;
const answer: Compared = compareFile({ ...question, build: examinePart(question.document) });
parentPort?.postMessage(answer);
