import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Invitation, Person, Role } from '@isola/contract';
import { hash, verify } from '@node-rs/argon2';
import { RateLimiterPostgres, type RateLimiterRes } from 'rate-limiter-flexible';
import { Op, type Transaction } from 'sequelize';
import type { Models, PersonModel } from '../db/models/index.ts';
import type { Bus } from './Bus.ts';
import { DoesNotFit, NotAllowed, NotFound, TooOften } from '../errors.ts';

/** A session that is not used is over after so many days; so is one that was begun so long ago, used or not. */
const UNUSED_DAYS = 14;
const LONGEST_DAYS = 90;
/** An invitation that nobody took up is over after so many days. */
const INVITED_DAYS = 7;
const DAY = 86_400_000;
/** When a session was used is noted no more often than this, ms. */
const NOTED_EVERY = 60_000;
/** So often a name may be tried, and so often from one address, in so many seconds. */
const TRIES = { ofName: 8, ofAddress: 40, seconds: 900 };

/** Somebody's session: `token` is told to their browser alone, the database has its digest. */
export interface Begun {
  readonly token: string;
  readonly person: Person;
  readonly expires: Date;
}

/** People who may come in, and their sessions. */
export class People {
  private readonly models: Models;
  private readonly bus: Bus;
  private readonly ofName: RateLimiterPostgres;
  private readonly ofAddress: RateLimiterPostgres;

  constructor(models: Models, bus: Bus) {
    this.models = models;
    this.bus = bus;
    const shared = {
      storeClient: models.sequelize,
      storeType: 'sequelize',
      tableName: 'rate_limits',
      tableCreated: true,
      duration: TRIES.seconds,
    };
    this.ofName = new RateLimiterPostgres({ ...shared, keyPrefix: 'name', points: TRIES.ofName });
    this.ofAddress = new RateLimiterPostgres({ ...shared, keyPrefix: 'address', points: TRIES.ofAddress });
  }

  async list(): Promise<Person[]> {
    return (await this.models.Person.findAll({ order: ['name'] })).map(tell);
  }

  /** Lets somebody in by name and password. @throws NotAllowed where they do not fit; TooOften after too many tries */
  async signIn(name: string, password: string, { address, agent }: { address: string; agent: string }): Promise<Begun> {
    const tried = name.trim().toLowerCase();
    await this.count(this.ofName, tried);
    await this.count(this.ofAddress, address);
    const person = await this.models.Person.findOne({ where: this.models.sequelize.where(this.lowerName(), tried) });
    // A name that nobody has takes as long as one that somebody has.
    const isRight = await verify(person?.password ?? (await this.standIn()), password);
    if (person === null || !isRight || person.isOut) throw new NotAllowed('Name and password do not fit together.');
    await this.ofName.delete(tried);
    return this.begin(person, agent);
  }

  private lowerName() {
    return this.models.sequelize.fn('lower', this.models.sequelize.col('name'));
  }

  private stand: Promise<string> | undefined;
  private standIn(): Promise<string> {
    this.stand ??= hash(randomUUID());
    return this.stand;
  }

  private async count(limiter: RateLimiterPostgres, key: string): Promise<void> {
    try {
      await limiter.consume(digest(key));
    } catch (error) {
      if (error instanceof Error) throw error;
      throw new TooOften(Math.ceil((error as RateLimiterRes).msBeforeNext / 1000));
    }
  }

  private async begin(person: PersonModel, agent: string, transaction?: Transaction): Promise<Begun> {
    const token = randomBytes(32).toString('base64url');
    const expires = new Date(Date.now() + UNUSED_DAYS * DAY);
    await this.models.Session.destroy({ where: { expiresAt: { [Op.lt]: new Date() } }, ...(transaction && { transaction }) });
    await this.models.Session.create(
      { tokenHash: digest(token), personId: person.id, agent: agent.slice(0, 300), expiresAt: expires, seenAt: new Date() },
      transaction === undefined ? {} : { transaction },
    );
    return { token, person: tell(person), expires };
  }

  /** Whose session it is; nobody's where it is over or unknown. `isUse`: somebody does something, which keeps it from being over. */
  async who(token: string, isUse = true): Promise<Person | undefined> {
    const session = await this.models.Session.findByPk(digest(token));
    const now = Date.now();
    if (session === null || session.expiresAt.getTime() < now || session.createdAt.getTime() < now - LONGEST_DAYS * DAY) return undefined;
    const person = await this.models.Person.findByPk(session.personId);
    if (person === null || person.isOut) return undefined;
    if (isUse && session.seenAt.getTime() < now - NOTED_EVERY)
      await session.update({ seenAt: new Date(now), expiresAt: new Date(now + UNUSED_DAYS * DAY) });
    return tell(person);
  }

  async signOut(token: string): Promise<void> {
    const session = await this.models.Session.findByPk(digest(token));
    await session?.destroy();
    if (session !== null) this.tellOf(session.personId);
  }

  /** Windows of somebody look whether they may stay. */
  private tellOf(personId: string): void {
    this.bus.say({ kind: 'sessions', personId });
  }

  /** Ends all sessions of somebody, on whatever machine. */
  async signOutEverywhere(personId: string): Promise<void> {
    await this.models.Session.destroy({ where: { personId } });
    this.tellOf(personId);
  }

  /** A link's token by which one new person is let in. */
  async invite(role: Role, invitedBy: string): Promise<Invitation> {
    const token = randomBytes(24).toString('base64url');
    const expiresAt = new Date(Date.now() + INVITED_DAYS * DAY);
    await this.models.Invitation.create({ tokenHash: digest(token), role, invitedBy, expiresAt });
    return { token, role, expiresAt: expiresAt.toISOString() };
  }

  /** What an invitation is for. @throws NotFound where it is over or was taken up */
  async invitation(token: string, transaction?: Transaction): Promise<{ readonly role: Role; readonly invitedBy: string }> {
    const found = await this.models.Invitation.findByPk(
      digest(token),
      transaction === undefined ? {} : { transaction, lock: transaction.LOCK.UPDATE },
    );
    if (found === null || found.expiresAt.getTime() < Date.now())
      throw new NotFound('such invitation: it was taken up already, or is over');
    return { role: found.role, invitedBy: found.invitedBy };
  }

  /** Takes an invitation up, once. @throws DoesNotFit where the name is somebody's already */
  async join(token: string, name: string, password: string, agent: string): Promise<Begun> {
    const hashed = await hash(password);
    return this.models.sequelize.transaction(async (transaction) => {
      const { role } = await this.invitation(token, transaction);
      const same = await this.models.Person.count({
        where: this.models.sequelize.where(this.lowerName(), name.toLowerCase()),
        transaction,
      });
      if (same > 0) throw new DoesNotFit(`Somebody here is called ${name} already: choose another name.`);
      await this.models.Invitation.destroy({ where: { tokenHash: digest(token) }, transaction });
      const person = await this.models.Person.create({ id: randomUUID(), name, role, password: hashed }, { transaction });
      return this.begin(person, agent, transaction);
    });
  }

  /** Changes what somebody may do, or shuts them out, which ends their sessions. @throws DoesNotFit where no owner would be left */
  async change(id: string, { role, isOut }: { role?: Role | undefined; isOut?: boolean | undefined }): Promise<Person[]> {
    await this.models.sequelize.transaction(async (transaction) => {
      // Two owners who shut each other out at once: the second finds the first one gone.
      const all = await this.models.Person.findAll({ transaction, lock: transaction.LOCK.UPDATE });
      const person = all.find((one) => one.id === id);
      if (person === undefined) throw new NotFound('such person');
      const next = { role: role ?? person.role, isOut: isOut ?? person.isOut };
      const isOwner = (one: { role: Role; isOut: boolean }): boolean => one.role === 'owner' && !one.isOut;
      if (!all.some((one) => isOwner(one.id === id ? next : one)))
        throw new DoesNotFit('Somebody has to be the owner: make another one first.');
      await person.update(next, { transaction });
      if (next.isOut) await this.models.Session.destroy({ where: { personId: id }, transaction });
    });
    this.tellOf(id);
    return this.list();
  }

  /** Sets a password of somebody's own, and ends their other sessions. */
  async changePassword(id: string, old: string, password: string, token: string): Promise<void> {
    const person = await this.models.Person.findByPk(id);
    if (person === null) throw new NotFound('such person');
    await this.count(this.ofName, person.name.toLowerCase());
    if (!(await verify(person.password, old))) throw new NotAllowed('The password that you have now is another one.');
    await person.update({ password: await hash(password) });
    await this.models.Session.destroy({ where: { personId: id, tokenHash: { [Op.ne]: digest(token) } } });
  }
}

/** Tokens are long and random: a plain digest of them tells nothing. */
const digest = (token: string): string => createHash('sha256').update(token).digest('base64url');

function tell({ id, name, role, isOut }: PersonModel): Person {
  return { id, name, role, isOut };
}
