import type { MigrationInterface, QueryRunner } from "typeorm";

/** Every accepted save is a row of its own; a part says which of them is its newest. */
export class CreateRevision1764100000004 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE "revision" (
        "part" text NOT NULL,
        "number" integer NOT NULL,
        "madeAt" text NOT NULL,
        "document" text NOT NULL,
        "commands" text,
        "said" text NOT NULL,
        "name" text,
        PRIMARY KEY ("part", "number")
      )`);
    await runner.query(`
      INSERT INTO "revision" ("part", "number", "madeAt", "document", "commands", "said", "name")
      SELECT "id", "revision", "updatedAt", "document", NULL, '["As it was when its history began"]', NULL
      FROM "part"`);
    await runner.query(`ALTER TABLE "part" DROP COLUMN "document"`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "part" ADD COLUMN "document" text NOT NULL DEFAULT ''`);
    await runner.query(`
      UPDATE "part" SET "document" = (
        SELECT "document" FROM "revision" WHERE "part" = "part"."id" AND "number" = "part"."revision")`);
    await runner.query(`DROP TABLE "revision"`);
  }
}
