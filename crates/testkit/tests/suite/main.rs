//! What holds of the whole house: no circle of files, nothing that runs back up, one name a station.

mod files;
mod house;
