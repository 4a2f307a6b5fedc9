//! Threads that compute, so that those which carry sockets and wait for the store never do. One
//! core is left to the floor and the sockets.

use crate::lock::lock;
use rocket::tokio::sync::oneshot;
use std::collections::BinaryHeap;
use std::sync::{Arc, Condvar, Mutex, PoisonError};

/// Urgency of work.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Urgency {
    /// Files to take away, long work that nobody watches.
    Job,
    /// Numbers about a move.
    Metrics,
    /// Picture that somebody looks at.
    Picture,
}

/// Waiting work, the most urgent first, then in the order it came.
struct Waiting {
    urgency: Urgency,
    order: std::cmp::Reverse<u64>,
    work: Box<dyn FnOnce() + Send>,
}

impl PartialEq for Waiting {
    fn eq(&self, other: &Waiting) -> bool {
        self.cmp(other).is_eq()
    }
}

impl Eq for Waiting {}

impl PartialOrd for Waiting {
    fn partial_cmp(&self, other: &Waiting) -> Option<std::cmp::Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Waiting {
    fn cmp(&self, other: &Waiting) -> std::cmp::Ordering {
        (self.urgency, self.order).cmp(&(other.urgency, other.order))
    }
}

#[derive(Default)]
struct Queue {
    waiting: BinaryHeap<Waiting>,
    came: u64,
    closed: bool,
}

/// The threads. They end when the pool is dropped.
pub struct Pool {
    queue: Arc<(Mutex<Queue>, Condvar)>,
}

impl Default for Pool {
    /// Pool with a thread per core but one, at least one thread.
    fn default() -> Pool {
        let cores = std::thread::available_parallelism().map_or(1, usize::from);
        Pool::of(cores.saturating_sub(1).max(1))
    }
}

impl Pool {
    /// A number of threads.
    pub fn of(threads: usize) -> Pool {
        let queue = Arc::new((Mutex::new(Queue::default()), Condvar::new()));
        for i in 0..threads {
            let queue = queue.clone();
            std::thread::Builder::new()
                .name(format!("computes {i}"))
                .spawn(move || run(&queue))
                .expect("a thread can be started");
        }
        Pool { queue }
    }

    /// Has work done by one of the threads. Work whose result nobody waits for any more when its
    /// turn comes is left undone.
    ///
    /// # Panics
    /// If the work does; the thread goes on.
    pub async fn run<T: Send + 'static>(
        &self,
        urgency: Urgency,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> T {
        let (tell, told) = oneshot::channel();
        let work = Box::new(move || {
            if !tell.is_closed() {
                let _ = tell.send(work());
            }
        });
        {
            let (queue, there) = &*self.queue;
            let mut queue = lock(queue);
            queue.came += 1;
            let order = std::cmp::Reverse(queue.came);
            queue.waiting.push(Waiting { urgency, order, work });
            there.notify_one();
        }
        told.await.expect("the work ends without a panic")
    }
}

impl Pool {
    /// To be called by long work now and then: does what is waiting and more urgent than it, so that a
    /// job of minutes, or figures, hold up no picture.
    pub fn help(&self, urgency: Urgency) {
        loop {
            let mut queue = lock(&self.queue.0);
            if queue.waiting.peek().is_none_or(|next| next.urgency <= urgency) {
                return;
            }
            let next = queue.waiting.pop().expect("there is one");
            drop(queue);
            let _ = std::panic::catch_unwind(std::panic::AssertUnwindSafe(next.work));
        }
    }
}

impl Drop for Pool {
    fn drop(&mut self) {
        let (queue, there) = &*self.queue;
        lock(queue).closed = true;
        there.notify_all();
    }
}

fn run((queue, there): &(Mutex<Queue>, Condvar)) {
    loop {
        let mut locked = lock(queue);
        let next = loop {
            if locked.closed {
                return;
            }
            match locked.waiting.pop() {
                Some(next) => break next,
                None => locked = there.wait(locked).unwrap_or_else(PoisonError::into_inner),
            }
        };
        drop(locked);
        // A panic is told to whoever waits, by dropping their sender; the thread goes on.
        let _ = std::panic::catch_unwind(std::panic::AssertUnwindSafe(next.work));
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rocket::tokio;
    use std::sync::mpsc::channel;

    #[rocket::async_test]
    async fn the_most_urgent_is_done_first_and_what_nobody_waits_for_is_not_done() {
        let pool = Arc::new(Pool::of(1));
        let (hold, held) = channel::<()>();
        let (begun, begins) = channel();
        let done = Arc::new(Mutex::new(Vec::new()));
        let go = |urgency, word: &'static str| {
            let (pool, done) = (pool.clone(), done.clone());
            tokio::spawn(async move { pool.run(urgency, move || done.lock().unwrap().push(word)).await })
        };
        let first = {
            let pool = pool.clone();
            tokio::spawn(async move {
                pool.run(Urgency::Job, move || {
                    begun.send(()).unwrap();
                    held.recv().unwrap();
                })
                .await;
            })
        };
        begins.recv().unwrap();
        let all = [go(Urgency::Job, "file"), go(Urgency::Metrics, "number"), go(Urgency::Picture, "picture")];
        let given_up = go(Urgency::Picture, "given up");
        while pool.queue.0.lock().unwrap().waiting.len() < 4 {
            tokio::task::yield_now().await;
        }
        given_up.abort();
        assert!(given_up.await.unwrap_err().is_cancelled());
        hold.send(()).unwrap();
        first.await.unwrap();
        for one in all {
            one.await.unwrap();
        }
        assert_eq!(*done.lock().unwrap(), ["picture", "number", "file"]);
    }

    #[rocket::async_test]
    async fn a_job_lets_through_what_is_more_urgent() {
        let pool = Arc::new(Pool::of(1));
        let (begun, begins) = channel();
        let (hold, held) = channel::<()>();
        let inner = pool.clone();
        let job = pool.run(Urgency::Job, move || {
            begun.send(()).unwrap();
            held.recv().unwrap();
            inner.help(Urgency::Job);
            inner.queue.0.lock().unwrap().waiting.len()
        });
        let others = async {
            begins.recv().unwrap();
            let picture = pool.run(Urgency::Picture, || "picture");
            let other = pool.run(Urgency::Job, || "another job");
            let free = async {
                while pool.queue.0.lock().unwrap().waiting.len() < 2 {
                    tokio::task::yield_now().await;
                }
                hold.send(()).unwrap();
            };
            tokio::join!(picture, other, free)
        };
        let both = tokio::join!(job, others);
        // The picture was done within the job, the other job was not.
        assert_eq!((both.0, both.1.0, both.1.1), (1, "picture", "another job"));
    }

    #[rocket::async_test]
    async fn a_panic_ends_the_work_and_not_the_thread() {
        let pool = Arc::new(Pool::of(1));
        let other = pool.clone();
        let broken = tokio::spawn(async move { other.run(Urgency::Job, || panic!("it breaks")).await });
        assert!(broken.await.is_err());
        assert_eq!(pool.run(Urgency::Job, || 7).await, 7);
    }
}
