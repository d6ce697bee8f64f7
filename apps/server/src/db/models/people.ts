import { DataTypes, type ModelStatic, type Sequelize } from 'sequelize';
import { date, integer, key, onlyCreated, text } from './columns.ts';
import type { HappeningModel, InvitationModel, PersonModel, SessionModel } from './rows.ts';

export interface PeopleModels {
  readonly Person: ModelStatic<PersonModel>;
  readonly Session: ModelStatic<SessionModel>;
  readonly Invitation: ModelStatic<InvitationModel>;
  readonly Happening: ModelStatic<HappeningModel>;
}

/** The tables of people, and of what they did, as models of one connection. */
export function definePeople(sequelize: Sequelize): PeopleModels {
  return {
    Person: sequelize.define<PersonModel>(
      'Person',
      {
        id: { type: DataTypes.UUID, ...key },
        ...{ name: text(), role: text(), password: text() },
        isOut: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
        createdAt: date(),
      },
      { tableName: 'people', ...onlyCreated },
    ),
    Session: sequelize.define<SessionModel>(
      'Session',
      {
        tokenHash: { ...text(), ...key },
        personId: { type: DataTypes.UUID, allowNull: false },
        agent: text(),
        ...{ seenAt: { ...date(), allowNull: false }, expiresAt: { ...date(), allowNull: false }, createdAt: date() },
      },
      { tableName: 'sessions', ...onlyCreated },
    ),
    Invitation: sequelize.define<InvitationModel>(
      'Invitation',
      { tokenHash: { ...text(), ...key }, role: text(), invitedBy: text(), expiresAt: { ...date(), allowNull: false }, createdAt: date() },
      { tableName: 'invitations', ...onlyCreated },
    ),
    Happening: sequelize.define<HappeningModel>(
      'Happening',
      {
        seq: { type: DataTypes.BIGINT, ...key, autoIncrement: true },
        at: { ...date(), defaultValue: DataTypes.NOW },
        who: { type: DataTypes.TEXT },
        ...{ address: text(), method: text(), path: text(), status: integer() },
        words: { type: DataTypes.TEXT },
      },
      { tableName: 'happenings', underscored: true, timestamps: false },
    ),
  };
}
