/** What reads parts knows all kinds of step: it is loaded when there is a file to read. */
export { readDocumentText } from "@hillcrest/core";
