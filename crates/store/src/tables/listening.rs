//! Listening sessions: fixed when they begin, answers given once and sealed until the end.

use crate::error::Error;
use crate::schema::{build, listener, listening, slip};
use chrono::{DateTime, Utc};
use diesel::dsl::count_star;
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::{Code, Problem};
use oak_drum_listening::outcome::{Heard, Outcome, outcome};
use oak_drum_listening::session::{MOST_LISTENERS, Session, Slip};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::HashMap;
use uuid::Uuid;

/// Most sessions of one build.
const MOST_SESSIONS: i64 = oak_drum_bundle::build::MOST_SESSIONS as i64;
/// Letters of a code: none is taken for another when it is read aloud or typed.
const LETTERS: &[u8; 24] = b"ACDEFHJKLMNPQRTUVWXY3479";

/// What a candidate is played through, where the program switches.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
pub struct Sound {
    /// A factor before all sections.
    pub gain: f64,
    /// Sections at 48 kHz: b0, b1, b2, a1, a2, the latter taken off.
    pub sections: Vec<[f64; 5]>,
}

/// A session.
#[derive(Clone, Debug, Queryable, Selectable)]
#[diesel(table_name = listening, check_for_backend(diesel::pg::Pg))]
pub struct SessionRecord {
    /// Key.
    pub id: Uuid,
    /// The build it belongs to.
    pub build_id: Uuid,
    /// What listeners type.
    pub code: String,
    /// What the helper's page is opened with.
    pub helper_key: Uuid,
    /// The session.
    pub document: Value,
    /// What each candidate is played through.
    pub sounds: Value,
    /// The hearing a helper has set up, from 0.
    pub hearing: i32,
    /// When it began.
    pub created_at: DateTime<Utc>,
    /// When the order was first shown to a helper.
    pub shown_at: Option<DateTime<Utc>>,
    /// When it ended.
    pub ended_at: Option<DateTime<Utc>>,
    /// What came of it.
    pub outcome: Option<Value>,
}

impl SessionRecord {
    /// The session as it was planned.
    ///
    /// # Errors
    /// [`Error::Unforeseen`] where what is stored does not read.
    pub fn session(&self) -> Result<Session, Error> {
        serde_json::from_value(self.document.clone()).map_err(|e| Error::Unforeseen(format!("a session: {e}")))
    }

    /// What each candidate is played through.
    ///
    /// # Errors
    /// [`Error::Unforeseen`] where what is stored does not read.
    pub fn sounds(&self) -> Result<Vec<Sound>, Error> {
        serde_json::from_value(self.sounds.clone()).map_err(|e| Error::Unforeseen(format!("sounds: {e}")))
    }
}

/// A listener.
#[derive(Clone, Debug, Queryable, Selectable)]
#[diesel(table_name = listener, check_for_backend(diesel::pg::Pg))]
pub struct ListenerRecord {
    /// Key: what his phone answers with.
    pub id: Uuid,
    /// The session.
    pub listening_id: Uuid,
    /// Number, from 0.
    pub number: i32,
    /// Name.
    pub name: String,
}

fn value(of: &impl Serialize) -> Result<Value, Error> {
    serde_json::to_value(of).map_err(|e| Error::Unforeseen(e.to_string()))
}

fn refused<T>(pointer: &str, what: impl Into<String>) -> Result<T, Error> {
    Err(Error::Invalid(vec![Problem::new(Code::OutOfRange, pointer, what.into())]))
}

/// A fresh code, six letters of the key's random end.
fn code() -> String {
    let bytes = Uuid::new_v4().into_bytes();
    bytes.iter().rev().take(6).map(|b| char::from(LETTERS[usize::from(*b) % LETTERS.len()])).collect()
}

/// Begins a session.
///
/// # Errors
/// [`Error::NotFound`] for the build; [`Error::Invalid`] where it has as many as may be; those of the database.
pub fn create(
    connection: &mut PgConnection,
    build_id: Uuid,
    session: &Session,
    sounds: &[Sound],
) -> Result<SessionRecord, Error> {
    connection.transaction(|c| {
        let there: i64 =
            build::table.filter(build::id.eq(build_id).and(build::deleted_at.is_null())).count().get_result(c)?;
        if there == 0 {
            return Err(Error::NotFound("build"));
        }
        let own = listening::table.filter(listening::build_id.eq(build_id).and(listening::deleted_at.is_null()));
        let standing: i64 = own.count().get_result(c)?;
        if standing >= MOST_SESSIONS {
            return refused("", format!("a build keeps at most {MOST_SESSIONS} sessions; take one out first"));
        }
        // of 24^6 codes one is free
        for _ in 0..20 {
            let made: Option<SessionRecord> = diesel::insert_into(listening::table)
                .values((
                    listening::id.eq(Uuid::now_v7()),
                    listening::build_id.eq(build_id),
                    listening::code.eq(code()),
                    listening::helper_key.eq(Uuid::new_v4()),
                    listening::document.eq(value(session)?),
                    listening::sounds.eq(value(&sounds)?),
                ))
                .on_conflict_do_nothing()
                .returning(SessionRecord::as_returning())
                .get_result(c)
                .optional()?;
            if let Some(made) = made {
                return Ok(made);
            }
        }
        Err(Error::Unforeseen("no code is free".into()))
    })
}

/// A session with its listeners and how many hearings each has answered.
pub type WithListeners = (SessionRecord, Vec<(ListenerRecord, i64)>);

/// The sessions of a build, the newest first.
///
/// # Errors
/// Those of the database.
pub fn of_build(connection: &mut PgConnection, build_id: Uuid) -> Result<Vec<WithListeners>, Error> {
    let sessions: Vec<SessionRecord> = listening::table
        .filter(listening::build_id.eq(build_id).and(listening::deleted_at.is_null()))
        .order((listening::created_at.desc(), listening::id.desc()))
        .select(SessionRecord::as_select())
        .load(connection)?;
    sessions.into_iter().map(|s| with_listeners(connection, s)).collect()
}

fn with_listeners(connection: &mut PgConnection, session: SessionRecord) -> Result<WithListeners, Error> {
    let list = listeners(connection, session.id)?;
    let counts: HashMap<Uuid, i64> = slip::table
        .filter(slip::listener_id.eq_any(list.iter().map(|l| l.id)))
        .group_by(slip::listener_id)
        .select((slip::listener_id, count_star()))
        .load::<(Uuid, i64)>(connection)?
        .into_iter()
        .collect();
    let told = list.into_iter().map(|l| {
        let given = counts.get(&l.id).copied().unwrap_or(0);
        (l, given)
    });
    let told = told.collect();
    Ok((session, told))
}

fn listeners(connection: &mut PgConnection, session: Uuid) -> Result<Vec<ListenerRecord>, Error> {
    Ok(listener::table
        .filter(listener::listening_id.eq(session))
        .order(listener::number)
        .select(ListenerRecord::as_select())
        .load(connection)?)
}

/// The session of a code, letters of either size.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn by_code(connection: &mut PgConnection, code: &str) -> Result<SessionRecord, Error> {
    let found: Option<SessionRecord> = listening::table
        .filter(listening::code.eq(code.trim().to_uppercase()).and(listening::deleted_at.is_null()))
        .select(SessionRecord::as_select())
        .first(connection)
        .optional()?;
    found.ok_or(Error::NotFound("listening session"))
}

/// A session and its listeners.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn get(connection: &mut PgConnection, id: Uuid) -> Result<WithListeners, Error> {
    let found: Option<SessionRecord> = listening::table
        .find(id)
        .filter(listening::deleted_at.is_null())
        .select(SessionRecord::as_select())
        .first(connection)
        .optional()?;
    with_listeners(connection, found.ok_or(Error::NotFound("listening session"))?)
}

/// Holds a session's row, so that it neither ends nor changes meanwhile.
fn locked(connection: &mut PgConnection, id: Uuid) -> Result<SessionRecord, Error> {
    let found: Option<SessionRecord> = listening::table
        .find(id)
        .filter(listening::deleted_at.is_null())
        .select(SessionRecord::as_select())
        .for_update()
        .first(connection)
        .optional()?;
    found.ok_or(Error::NotFound("listening session"))
}

/// A listener joins.
///
/// # Errors
/// [`Error::NotFound`] for the code; [`Error::Closed`] after the end; [`Error::Invalid`] where the name is taken, or there are as many
/// as may be; those of the database.
pub fn join(connection: &mut PgConnection, code: &str, name: &str) -> Result<ListenerRecord, Error> {
    connection.transaction(|c| {
        let found = by_code(c, code)?;
        let session = locked(c, found.id)?;
        if session.ended_at.is_some() {
            return Err(Error::Closed("this session has ended"));
        }
        let there = listeners(c, session.id)?;
        if there.len() >= MOST_LISTENERS {
            return refused("/name", format!("{MOST_LISTENERS} listen already, which is as many as there may be"));
        }
        if there.iter().any(|l| l.name.to_lowercase() == name.to_lowercase()) {
            return refused("/name", "somebody of that name listens already; take another");
        }
        Ok(diesel::insert_into(listener::table)
            .values((
                listener::id.eq(Uuid::new_v4()),
                listener::listening_id.eq(session.id),
                listener::number.eq(i32::try_from(there.len()).unwrap_or(i32::MAX)),
                listener::name.eq(name),
            ))
            .returning(ListenerRecord::as_returning())
            .get_result(c)?)
    })
}

/// The listener of a key, in the session of a code.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn listener_of(
    connection: &mut PgConnection,
    code: &str,
    key: Uuid,
) -> Result<(SessionRecord, ListenerRecord), Error> {
    let session = by_code(connection, code)?;
    let found: Option<ListenerRecord> = listener::table
        .find(key)
        .filter(listener::listening_id.eq(session.id))
        .select(ListenerRecord::as_select())
        .first(connection)
        .optional()?;
    Ok((session, found.ok_or(Error::NotFound("listener"))?))
}

/// The hearings a listener has answered, by number from 0.
///
/// # Errors
/// Those of the database.
pub fn answered(connection: &mut PgConnection, listener_id: Uuid) -> Result<Vec<i32>, Error> {
    let own = slip::table.filter(slip::listener_id.eq(listener_id));
    Ok(own.order(slip::hearing).select(slip::hearing).load(connection)?)
}

/// Seals a listener's answer to a hearing. The same answer once more changes nothing.
///
/// # Errors
/// [`Error::NotFound`]; [`Error::Closed`] after the end, and where another answer was given already; [`Error::Invalid`] where the answer
/// does not fit what is asked; those of the database.
pub fn give(connection: &mut PgConnection, code: &str, key: Uuid, hearing: i32, given: &Slip) -> Result<(), Error> {
    connection.transaction(|c| {
        let (session, by) = listener_of(c, code, key)?;
        let session = locked(c, session.id)?;
        let made = value(given)?;
        let standing: Option<Value> = slip::table.find((by.id, hearing)).select(slip::document).first(c).optional()?;
        match standing {
            Some(there) if there == made => return Ok(()),
            Some(_) => {
                return Err(Error::Closed("this one was answered already; answers are sealed once they are given"));
            }
            None => {}
        }
        if session.ended_at.is_some() {
            return Err(Error::Closed("this session has ended; the answer was not kept"));
        }
        let planned = session.session()?;
        let all = planned.hearings(usize::try_from(by.number).unwrap_or(0));
        let Some(asked) = usize::try_from(hearing).ok().and_then(|i| all.get(i)) else {
            return refused("/hearing", "there is no such hearing");
        };
        if let Some((field, what)) = planned.wrong_with(asked, given) {
            return refused(&format!("/slip{field}"), what);
        }
        diesel::insert_into(slip::table)
            .values((slip::listener_id.eq(by.id), slip::hearing.eq(hearing), slip::document.eq(made)))
            .execute(c)?;
        Ok(())
    })
}

/// A helper looks at the order, or sets up a hearing.
///
/// # Errors
/// [`Error::NotFound`] where code or key are none; [`Error::Closed`] after the end; those of the database.
pub fn help(
    connection: &mut PgConnection,
    code: &str,
    key: Uuid,
    hearing: Option<i32>,
) -> Result<SessionRecord, Error> {
    connection.transaction(|c| {
        let found = by_code(c, code)?;
        let session = locked(c, found.id)?;
        if session.helper_key != key {
            return Err(Error::NotFound("listening session"));
        }
        if session.ended_at.is_some() {
            return Err(Error::Closed("this session has ended"));
        }
        let last = session.session()?.hearings(0).len().saturating_sub(1);
        let set = hearing.unwrap_or(session.hearing).clamp(0, i32::try_from(last).unwrap_or(0));
        Ok(diesel::update(listening::table.find(session.id))
            .set((listening::hearing.eq(set), listening::shown_at.eq(session.shown_at.or_else(|| Some(Utc::now())))))
            .returning(SessionRecord::as_returning())
            .get_result(c)?)
    })
}

/// Ends a session: from now on no answer is taken, and what came of it may be read.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn end(connection: &mut PgConnection, id: Uuid) -> Result<(), Error> {
    connection.transaction(|c| {
        let session = locked(c, id)?;
        if session.ended_at.is_none() {
            diesel::update(listening::table.find(id)).set(listening::ended_at.eq(diesel::dsl::now)).execute(c)?;
        }
        Ok(())
    })
}

/// What was heard and answered in a session.
///
/// # Errors
/// [`Error::Unforeseen`] where what is stored does not read; those of the database.
pub fn heard(connection: &mut PgConnection, session: &SessionRecord) -> Result<Vec<Heard>, Error> {
    let planned = session.session()?;
    listeners(connection, session.id)?
        .into_iter()
        .map(|l| {
            let hearings = planned.hearings(usize::try_from(l.number).unwrap_or(0));
            let mut slips: Vec<Option<Slip>> = vec![None; hearings.len()];
            let given: Vec<(i32, Value)> = slip::table
                .filter(slip::listener_id.eq(l.id))
                .select((slip::hearing, slip::document))
                .load(connection)?;
            for (at, document) in given {
                let read =
                    serde_json::from_value(document).map_err(|e| Error::Unforeseen(format!("an answer: {e}")))?;
                if let Some(place) = usize::try_from(at).ok().and_then(|i| slips.get_mut(i)) {
                    *place = Some(read);
                }
            }
            Ok(Heard { name: l.name, hearings, slips })
        })
        .collect()
}

/// What came of a session that has ended; worked out once and kept. `None` before the end.
///
/// # Errors
/// [`Error::Unforeseen`] where what is stored does not read; those of the database.
pub fn outcome_of(connection: &mut PgConnection, session: &SessionRecord) -> Result<Option<Outcome>, Error> {
    if session.ended_at.is_none() {
        return Ok(None);
    }
    if let Some(kept) = session.outcome.clone().and_then(|o| serde_json::from_value(o).ok()) {
        return Ok(Some(kept));
    }
    let all = heard(connection, session)?;
    let made = outcome(&session.session()?, &all);
    diesel::update(listening::table.find(session.id))
        .set(listening::outcome.eq(Some(value(&made)?)))
        .execute(connection)?;
    Ok(Some(made))
}

/// Marks a session as deleted, or takes the mark back.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(listening::table.find(id)).set(listening::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("listening session")) } else { Ok(()) }
}

/// A listener's name, and his answers by hearing.
pub(crate) type Given = (String, Vec<(u32, Value)>);

/// What the listeners of a session answered, in the order in which they joined: names, and answers by hearing.
pub(crate) fn given(connection: &mut PgConnection, session: Uuid) -> Result<Vec<Given>, Error> {
    listeners(connection, session)?
        .into_iter()
        .map(|l| {
            let slips: Vec<(i32, Value)> = slip::table
                .filter(slip::listener_id.eq(l.id))
                .order(slip::hearing)
                .select((slip::hearing, slip::document))
                .load(connection)?;
            Ok((l.name, slips.into_iter().map(|(at, v)| (at.cast_unsigned(), v)).collect()))
        })
        .collect()
}

/// Puts a listener and his answers into a session that was held elsewhere.
pub(crate) fn put(
    connection: &mut PgConnection,
    session: Uuid,
    number: i32,
    name: &str,
    slips: &[(usize, Slip)],
) -> Result<(), Error> {
    let key = Uuid::new_v4();
    diesel::insert_into(listener::table)
        .values((
            listener::id.eq(key),
            listener::listening_id.eq(session),
            listener::number.eq(number),
            listener::name.eq(name),
        ))
        .execute(connection)?;
    for (hearing, given) in slips {
        let at = i32::try_from(*hearing).unwrap_or(i32::MAX);
        diesel::insert_into(slip::table)
            .values((slip::listener_id.eq(key), slip::hearing.eq(at), slip::document.eq(value(given)?)))
            .execute(connection)?;
    }
    Ok(())
}

/// Says when a session that was held elsewhere began, was first shown to a helper, and ended.
pub(crate) fn ended(
    connection: &mut PgConnection,
    session: Uuid,
    (began, shown, ended): (DateTime<Utc>, Option<DateTime<Utc>>, DateTime<Utc>),
) -> Result<(), Error> {
    diesel::update(listening::table.find(session))
        .set((listening::created_at.eq(began), listening::shown_at.eq(shown), listening::ended_at.eq(Some(ended))))
        .execute(connection)?;
    Ok(())
}
