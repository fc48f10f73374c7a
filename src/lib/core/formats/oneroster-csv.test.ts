import { describe, expect, it } from 'vitest';
import { readOneRoster } from './oneroster-csv';

/** Files with the fields, in the order, that the CSV tables of 1EdTech OneRoster 1.1 give; values are invented. */
const V11 = {
  'manifest.csv':
    'propertyName,value\nmanifest.version,1.0\noneroster.version,1.1\nfile.classes,bulk\nfile.users,bulk\nfile.enrollments,bulk\n',
  'classes.csv':
    'sourcedId,status,dateLastModified,title,grades,courseSourcedId,classCode,classType,location,schoolSourcedId,termSourcedIds,subjects,subjectCodes,periods\nc8,,,"Geography, 8C",08,g8,8C,scheduled,,s1,t1,,,\nc9,,,9A,09,g9,,scheduled,,s1,t1,,,\n',
  'users.csv':
    'sourcedId,status,dateLastModified,enabledUser,orgSourcedIds,role,username,userIds,givenName,familyName,middleName,identifier,email,sms,phone,agentSourcedIds,grades,password\nu1,,,true,s1,student,vek,,Viggo,Ekholm,,4711,V.Ekholm@skerry.example,,,,08,\nu2,,,true,s1,student,kil,,Kaisa,Ilves,,,,,,,08,\nu3,tobedeleted,,true,s1,student,x,,Gone,Away,,,,,,,08,\nt1,,,true,s1,teacher,tam,,Tamsin,Orrey,,,,,,,,\n',
  'enrollments.csv':
    'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role,primary,beginDate,endDate\ne1,,,c8,s1,u1,student,,,\ne2,,,c9,s1,u2,student,,,\ne3,,,c8,s1,t1,teacher,true,,\ne4,tobedeleted,,c8,s1,u2,student,,,\ne5,,,c8,s1,u3,student,,,\ne6,,,cX,s1,u1,student,,,\n',
};

/** In OneRoster 1.2 users.csv has other fields, and roles stand in roles.csv. */
const V12 = {
  'manifest.csv': 'propertyName,value\nmanifest.version,1.0\noneroster.version,1.2\n',
  'classes.csv': V11['classes.csv'],
  'users.csv':
    'sourcedId,status,dateLastModified,enabledUser,username,userIds,givenName,familyName,middleName,identifier,email,sms,phone,agentSourcedIds,grades,password,userMasterIdentifier,preferredGivenName,preferredMiddleName,preferredFamilyName,primaryOrgSourcedId,pronouns\nu1,,,true,vek,,Viggo,Ekholm,,,v@skerry.example,,,,08,,,,,,s1,\n',
  'roles.csv':
    'sourcedId,status,dateLastModified,userSourcedId,roleType,role,beginDate,endDate,orgSourcedId,userProfileSourcedId\nr1,,,u1,primary,student,,,s1,\n',
  'enrollments.csv':
    'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role,primary,beginDate,endDate\ne1,,,c8,s1,u1,student,,,\n',
};
const read = (files: Record<string, string>) => readOneRoster(new Map(Object.entries(files)));

describe('a OneRoster package', () => {
  it('of version 1.1 gives classes and their students', () => {
    const roster = read(V11);
    if ('fault' in roster) throw new Error(roster.fault);
    expect(roster.version).toBe('1.1');
    expect(roster.classes).toEqual([
      { sourcedId: 'c8', title: 'Geography, 8C', code: '8C' },
      { sourcedId: 'c9', title: '9A', code: '' },
    ]);
    expect(roster.students.get('c8')).toEqual([
      {
        line: 2,
        given: 'Viggo',
        family: 'Ekholm',
        email: 'v.ekholm@skerry.example',
        officeId: 'u1',
        signIn: 'vek',
        enabled: true,
      },
    ]);
    expect(roster.bad).toEqual([
      { file: 'enrollments.csv', line: 6, says: 'its user “u3” is not in users.csv' },
      { file: 'enrollments.csv', line: 7, says: 'its class “cX” is not in classes.csv' },
    ]);
  });

  it('of version 1.2 is read in the same way', () => {
    const roster = read(V12);
    if ('fault' in roster) throw new Error(roster.fault);
    expect(roster.version).toBe('1.2');
    expect(roster.students.get('c8')).toMatchObject([{ given: 'Viggo', officeId: 'u1' }]);
  });

  it('says who may not sign in, and leaves out what is no longer active', () => {
    const roster = read({
      ...V11,
      'users.csv': V11['users.csv'].replace('u1,,,true', 'u1,active,,FALSE').replace('kil', ''),
      'enrollments.csv': V11['enrollments.csv'].replace('e2,,', 'e2,inactive,'),
    });
    if ('fault' in roster) throw new Error(roster.fault);
    expect(roster.students.get('c8')).toMatchObject([{ officeId: 'u1', enabled: false }]);
    expect(roster.students.get('c9')).toEqual([]);
    const silent = read({ ...V11, 'users.csv': V11['users.csv'].replace('u1,,,true', 'u1,,,') });
    expect('students' in silent && silent.students.get('c8')?.[0]?.enabled).toBeUndefined();
  });

  it('that lacks a file or a field is refused with its name', () => {
    const without = Object.entries(V11).filter(([name]) => name !== 'users.csv');
    expect(read(Object.fromEntries(without))).toMatchObject({
      fault: expect.stringContaining('users.csv'),
    });
    const renamed = V11['users.csv'].replace('familyName', 'surname');
    expect(read({ ...V11, 'users.csv': renamed })).toMatchObject({
      fault: 'users.csv lacks “familyName” in its first line.',
    });
  });
});
