import type { MigrationInterface, QueryRunner } from "typeorm";

/** What has left of each part, with the proof of every file. */
export class CreateExport1764200000005 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE "export" (
        "id" integer PRIMARY KEY AUTOINCREMENT NOT NULL,
        "part" text NOT NULL,
        "madeAt" text NOT NULL,
        "by" text NOT NULL,
        "revision" integer NOT NULL,
        "format" text NOT NULL,
        "file" text NOT NULL,
        "sha256" text NOT NULL,
        "preset" text NOT NULL,
        "proof" text NOT NULL,
        "facts" text NOT NULL
      )`);
    await runner.query(`CREATE INDEX "export_of_part" ON "export" ("part", "id")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "export"`);
  }
}
