//! The routes: one file a resource.

pub mod airway;
pub mod amplifiers;
pub mod begin;
pub mod booklet;
pub mod builds;
pub mod cabinet;
pub mod carry;
pub mod days;
pub mod documents;
pub mod drive;
pub mod enclosure;
pub mod evaluate;
pub mod files;
pub mod fits;
pub mod habits;
pub mod health;
pub mod listen;
pub mod listeners;
pub mod log;
pub mod match_levels;
pub mod measurements;
pub mod programme;
pub mod proving;
pub mod quiet;
pub mod recordings;
pub mod revisions;
pub mod room;
pub mod tour;
pub mod trials;
pub mod woofers;
pub mod work_plans;
pub mod workshop;

use utoipa_actix_web::service_config::ServiceConfig;

/// Registers every route: what is registered here is served under `/api`, and documented.
pub fn configure(config: &mut ServiceConfig) {
    config
        .service(health::live)
        .service(health::ready)
        .service(evaluate::evaluate)
        .service(evaluate::curves)
        .service(evaluate::findings)
        .service(evaluate::suggest)
        .service(evaluate::families)
        .service(enclosure::materials)
        .service(enclosure::motion)
        .service(enclosure::tolerance)
        .service(enclosure::seek)
        .service(enclosure::seek_telling)
        .service(airway::pipes)
        .service(airway::airway)
        .service(airway::trim)
        .service(quiet::quiet)
        .service(drive::drive)
        .service(drive::flatten)
        .service(drive::parts)
        .service(drive::power)
        .service(drive::biquads)
        .service(drive::card)
        .service(cabinet::cabinet)
        .service(cabinet::saw)
        .service(cabinet::building)
        .service(cabinet::mistake)
        .service(days::days)
        .service(days::calendar)
        .service(cabinet::sheets)
        .service(cabinet::file)
        .service(quiet::mode)
        .service(carry::import)
        .service(carry::export)
        .service(carry::back_up)
        .service(carry::restore)
        .service(booklet::print)
        .service(builds::list)
        .service(builds::create)
        .service(builds::get)
        .service(builds::change)
        .service(builds::card)
        .service(builds::delete)
        .service(builds::restore)
        .service(revisions::create)
        .service(revisions::save)
        .service(revisions::history)
        .service(revisions::delete)
        .service(revisions::restore)
        .service(begin::purposes)
        .service(begin::three)
        .service(tour::tour)
        .service(tour::progress)
        .service(tour::sound)
        .service(begin::cabinet)
        .service(work_plans::get)
        .service(work_plans::save)
        .service(workshop::get)
        .service(workshop::save)
        .service(workshop::tools)
        .service(files::preview)
        .service(files::import)
        .service(files::export)
        .service(woofers::derive)
        .service(woofers::in_box)
        .service(woofers::keep)
        .service(woofers::log)
        .service(woofers::list)
        .service(woofers::get)
        .service(woofers::create)
        .service(woofers::save)
        .service(woofers::favourite)
        .service(woofers::delete)
        .service(woofers::restore)
        .service(amplifiers::import)
        .service(amplifiers::export)
        .service(amplifiers::list)
        .service(amplifiers::create)
        .service(amplifiers::save)
        .service(amplifiers::delete)
        .service(amplifiers::restore)
        .service(amplifiers::suits)
        .service(room::list)
        .service(room::create)
        .service(room::save)
        .service(room::delete)
        .service(room::restore)
        .service(room::room_view)
        .service(room::families)
        .service(room::map)
        .service(room::arrangements)
        .service(room::mode)
        .service(room::other)
        .service(measurements::preview)
        .service(measurements::of_build)
        .service(measurements::import)
        .service(measurements::bench)
        .service(measurements::cooked)
        .service(measurements::save)
        .service(measurements::remove)
        .service(measurements::restore)
        .service(measurements::export)
        .service(proving::prove)
        .service(proving::plan)
        .service(proving::learned)
        .service(habits::boxes)
        .service(proving::judge)
        .service(measurements::on_tape)
        .service(measurements::calibration)
        .service(proving::combine)
        .service(recordings::sweep)
        .service(recordings::steady)
        .service(recordings::keep)
        .service(fits::woofer)
        .service(log::of_build)
        .service(log::save)
        .service(log::remove)
        .service(log::restore)
        .service(log::keep_photo)
        .service(log::get_photo)
        .service(log::timeline)
        .service(log::lessons)
        .service(listen::of_build)
        .service(listen::begin)
        .service(listen::end)
        .service(listen::remove)
        .service(listen::restore)
        .service(listeners::by_code)
        .service(listeners::join)
        .service(listeners::hearings)
        .service(listeners::give)
        .service(listeners::helper)
        .service(listeners::set_up)
        .service(match_levels::match_levels)
        .service(match_levels::match_measured)
        .service(match_levels::read_level)
        .service(listen::question)
        .service(programme::programme)
        .service(programme::programme_piece)
        .service(trials::rules)
        .service(trials::begin)
        .service(trials::of_build)
        .service(trials::get)
        .service(trials::stop)
        .service(trials::resume)
        .service(trials::results)
        .service(trials::design)
        .service(documents::openapi)
        .service(documents::schema);
}
